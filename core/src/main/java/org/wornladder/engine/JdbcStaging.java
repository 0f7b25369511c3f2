package org.wornladder.engine;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.wornladder.ProjectException;
import org.wornladder.project.RowHasher;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedRows;
import org.wornladder.schema.Column;
import org.wornladder.sql.Quoting;

/** Takes rows in by one prepared statement. */
public abstract class JdbcStaging extends Staging {
  protected JdbcStaging(Session session, Quoting quoting) {
    super(session, quoting);
  }

  @Override
  public void load(StagingTable stage, SeedRows rows) throws SQLException {
    List<String> names = new ArrayList<>(List.of(LINE));
    List<String> places = new ArrayList<>(List.of("?"));
    List<ValueKind> kinds = new ArrayList<>();
    for (StagingTable.Part part : stage.columns()) {
      ValueKind kind = kind(part.column());
      kinds.add(kind);
      names.add(name(part.name()));
      places.add(place(kind));
    }
    String insert =
        "INSERT INTO "
            + staged(stage)
            + " ("
            + String.join(", ", names)
            + ") VALUES ("
            + String.join(", ", places)
            + ")";
    loadBegins();
    try (PreparedStatement sql = session().connection().prepareStatement(insert)) {
      Load load = new Load(rows, kinds, sql);
      rows.each(load::row);
      load.end();
    } finally {
      loadEnds();
    }
  }

  protected void loadBegins() throws SQLException {}

  protected void loadEnds() throws SQLException {}

  /** The placeholder of a value in the statement; one question mark is part of it. */
  protected String place(ValueKind kind) {
    return "?";
  }

  /** Gives the statement a value. */
  protected void bind(PreparedStatement sql, int index, ValueKind kind, String text)
      throws SQLException, BadValueException {
    switch (kind) {
      case BINARY -> sql.setBytes(index, Values.bytes(text));
      case TRUTH -> sql.setBoolean(index, Values.truth(text));
      case WHOLE -> {
        Values.checkWhole(text);
        sql.setString(index, text);
      }
      case DECIMAL, FLOATING -> {
        Values.checkNumber(text);
        sql.setString(index, text);
      }
      case DATE -> {
        Values.checkDate(text);
        sql.setString(index, text);
      }
      case TIME -> {
        Values.checkTime(text);
        sql.setString(index, text);
      }
      case MOMENT -> {
        Values.checkMoment(text);
        sql.setString(index, text);
      }
      default -> sql.setString(index, text);
    }
  }

  /** How many rows travel together; 1 where the answer for each is needed at once. */
  protected int together() {
    return 1;
  }

  /** What the database said of a value, in few words and without the value. */
  protected abstract String words(SQLException e);

  /** The column that the database found wrong; empty if it does not say. */
  protected Optional<String> columnIn(SQLException e) {
    return Optional.empty();
  }

  /** Rows in transit. */
  private final class Load {
    private final SeedRows rows;
    private final List<ValueKind> kinds;
    private final PreparedStatement sql;
    private final List<SeedRow> waiting = new ArrayList<>();
    private final int together = together();

    Load(SeedRows rows, List<ValueKind> kinds, PreparedStatement sql) {
      this.rows = rows;
      this.kinds = kinds;
      this.sql = sql;
    }

    void row(SeedRow row) throws SQLException {
      if (together == 1) {
        bindAll(row);
        alone(row);
        return;
      }
      bindAll(row);
      sql.addBatch();
      waiting.add(row);
      if (waiting.size() == together) {
        send();
      }
    }

    void end() throws SQLException {
      if (!waiting.isEmpty()) {
        send();
      }
    }

    private void send() throws SQLException {
      try {
        sql.executeBatch();
      } catch (SQLException e) {
        oneByOne(e);
      }
      waiting.clear();
    }

    /** Finds the row that the database does not take. */
    private void oneByOne(SQLException first) throws SQLException {
      sql.clearBatch();
      for (SeedRow row : waiting) {
        bindAll(row);
        alone(row);
      }
      throw first;
    }

    private void alone(SeedRow row) throws SQLException {
      try {
        sql.executeUpdate();
      } catch (SQLException e) {
        if (session().fault(e).kind() != Fault.Kind.STATEMENT) {
          throw e;
        }
        String column = columnIn(e).map(name -> "column " + name + ": ").orElse("");
        throw ProjectException.of(rows.place(row.position()), column + words(e), "");
      }
    }

    private void bindAll(SeedRow row) throws SQLException {
      sql.setLong(1, row.position());
      for (int i = 0; i < row.size(); i++) {
        if (row.isNull(i)) {
          sql.setNull(i + 2, Types.VARCHAR);
        } else {
          try {
            bind(sql, i + 2, kinds.get(i), row.text(i));
          } catch (BadValueException e) {
            String column = rows.columns().get(i);
            throw ProjectException.of(
                rows.place(row.position()), "column " + column + ": " + e.getMessage(), "");
          }
        }
      }
    }
  }

  @Override
  public TableRows rows(StagingTable stage, long most) throws SQLException {
    String query =
        "SELECT "
            + stage.columns().stream()
                .map(part -> name(part.column().name()))
                .collect(Collectors.joining(", "))
            + " FROM "
            + session().quoted(stage.table())
            + session().atMost(most);
    return new QueriedRows(
        session().connection(), query, (row, hasher) -> hash(row, stage, hasher));
  }

  private void hash(ResultSet row, StagingTable stage, RowHasher hasher) throws SQLException {
    for (int i = 0; i < hasher.columns(); i++) {
      Optional<String> value = read(row, i + 1, stage.columns().get(i).column());
      if (value.isPresent()) {
        hasher.add(i, value.get());
      } else {
        hasher.addNull(i);
      }
    }
  }

  @Override
  protected Optional<UnaryOperator<String>> canonical(Column column) {
    return kind(column) == ValueKind.TRUTH
        ? Optional.of(JdbcStaging::truth)
        : super.canonical(column);
  }

  private static String truth(String text) {
    try {
      return Boolean.toString(Values.truth(text));
    } catch (BadValueException e) {
      return text;
    }
  }

  @Override
  public Optional<String> read(ResultSet row, int index, Column column) throws SQLException {
    return switch (kind(column)) {
      case BINARY -> Optional.ofNullable(row.getBytes(index)).map(Values::base64);
      case TRUTH -> {
        boolean truth = row.getBoolean(index);
        yield row.wasNull() ? Optional.empty() : Optional.of(Boolean.toString(truth));
      }
      default -> Optional.ofNullable(row.getString(index));
    };
  }
}
