package org.wornladder.engine.sqlite;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.ColumnLimits;
import org.wornladder.engine.JdbcStaging;
import org.wornladder.engine.QueriedRows;
import org.wornladder.engine.Session;
import org.wornladder.engine.StagingTable;
import org.wornladder.engine.TableRows;
import org.wornladder.engine.ValueKind;
import org.wornladder.engine.Values;
import org.wornladder.project.RowHasher;
import org.wornladder.schema.Column;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.sql.Quoting;

/**
 * Rows on their way into SQLite, which takes any value in any column: what the declared types say
 * is held up here.
 */
final class SqliteStaging extends JdbcStaging {
  /** Digits that a number with a fraction keeps (SQLite's documentation, "Datatypes", 2). */
  private static final int KEPT_DIGITS = 15;

  /** ASCII's unit separator. */
  private static final String SEPARATOR = "\u001F";

  private static final int TOGETHER = 500;
  private static final int DIGITS_OF_LONG = 18;

  SqliteStaging(Session session, Quoting quoting) {
    super(session, quoting);
  }

  /** Its rows lie in the order of the file, so that none has to be sought for. */
  @Override
  protected String making(StagingTable stage) {
    List<String> columns = new ArrayList<>(List.of(LINE + " INTEGER PRIMARY KEY"));
    for (StagingTable.Part part : stage.all()) {
      columns.add(name(part.name()) + " " + part.column().type());
    }
    return "CREATE TABLE " + staged(stage) + " (" + String.join(", ", columns) + ")";
  }

  @Override
  public String staged(StagingTable stage) {
    return "temp." + name(stage.name());
  }

  /** A primary key of the very type INTEGER is the row's own number. */
  @Override
  public boolean numbers(Table table, Column column) {
    return super.numbers(table, column)
        || column.type().equalsIgnoreCase("INTEGER")
            && table.primaryKey().equals(List.of(column.name()));
  }

  /** By the rules of affinity, and the names that people give to types. */
  /** Types are kept to by no value, but a number that loses digits is no mistake that is meant. */
  @Override
  public ColumnLimits limits(Column column, Schema schema) {
    return ColumnLimits.decimalsOf(column);
  }

  @Override
  protected ValueKind kindOf(Column column) {
    String type = column.type().toUpperCase(Locale.ROOT);
    if (type.contains("INT")) {
      return ValueKind.WHOLE;
    }
    if (type.contains("BOOL")) {
      return ValueKind.TRUTH;
    }
    if (type.contains("CHAR") || type.contains("TEXT") || type.contains("CLOB")) {
      return ValueKind.TEXT;
    }
    if (type.contains("BLOB") || type.contains("BINARY") || type.contains("BYTEA")) {
      return ValueKind.BINARY;
    }
    if (type.startsWith("TIMESTAMP") || type.startsWith("DATETIME")) {
      return ValueKind.MOMENT;
    }
    if (type.startsWith("DATE")) {
      return ValueKind.DATE;
    }
    if (type.startsWith("TIME")) {
      return ValueKind.TIME;
    }
    if (type.contains("REAL") || type.contains("FLOA") || type.contains("DOUB")) {
      return ValueKind.FLOATING;
    }
    if (type.startsWith("DEC") || type.startsWith("NUM")) {
      return ValueKind.DECIMAL;
    }
    return type.startsWith("JSON") ? ValueKind.JSON : ValueKind.OTHER;
  }

  /** It touches the temporary database alone, and takes no lock of the other. */
  @Override
  protected void loadBegins() throws SQLException {
    session().change("PRAGMA temp.cache_size = -32768");
    session().connection().setAutoCommit(false);
  }

  @Override
  protected void loadEnds() throws SQLException {
    session().connection().commit();
    session().connection().setAutoCommit(true);
  }

  @Override
  protected int together() {
    return TOGETHER;
  }

  @Override
  public String literal(ValueKind kind, String text) throws BadValueException {
    return switch (kind) {
      case TRUTH -> Values.truth(text) ? "1" : "0";
      case WHOLE -> Long.toString(Values.whole(text));
      case OTHER ->
          text.startsWith(Values.BASE64)
              ? super.literal(ValueKind.BINARY, text)
              : super.literal(kind, text);
      default -> super.literal(kind, text);
    };
  }

  @Override
  protected void bind(PreparedStatement sql, int index, ValueKind kind, String text)
      throws SQLException, BadValueException {
    switch (kind) {
      case TRUTH -> sql.setInt(index, Values.truth(text) ? 1 : 0);
      case WHOLE -> sql.setLong(index, Values.whole(text));
      case DECIMAL -> {
        Values.checkNumber(text);
        if (text.length() > KEPT_DIGITS && Values.digits(text) > KEPT_DIGITS && !isLong(text)) {
          throw new BadValueException(
              "SQLite would keep only "
                  + KEPT_DIGITS
                  + " digits of this number; a column of type text keeps all");
        }
        sql.setString(index, text);
      }
      case OTHER -> {
        if (text.startsWith(Values.BASE64)) {
          sql.setBytes(index, Values.bytes(text));
        } else {
          sql.setString(index, text);
        }
      }
      default -> super.bind(sql, index, kind, text);
    }
  }

  private static boolean isLong(String text) {
    return text.length() <= DIGITS_OF_LONG && text.chars().allMatch(c -> c >= '0' && c <= '9');
  }

  @Override
  protected String words(SQLException e) {
    return session().fault(e).message();
  }

  @Override
  public Optional<String> read(ResultSet row, int index, Column column) throws SQLException {
    switch (kind(column)) {
      case BINARY, OTHER, TRUTH -> {
        Object value = row.getObject(index);
        if (value instanceof byte[] bytes) {
          return Optional.of(Values.base64(bytes));
        }
        boolean truth = kind(column) == ValueKind.TRUTH && value instanceof Number;
        return truth
            ? Optional.of(Boolean.toString(((Number) value).longValue() != 0))
            : Optional.ofNullable(value).map(Object::toString);
      }
      default -> {
        return Optional.ofNullable(row.getString(index));
      }
    }
  }

  /**
   * Each row comes as one text, since the driver takes long for each value: its fields parted by a
   * unit separator, NULL as a hyphen. A value with such a sign in it gives another row.
   */
  @Override
  public TableRows rows(StagingTable stage, long most) throws SQLException {
    boolean isText = stage.columns().stream().allMatch(part -> isHeldAsText(kind(part.column())));
    if (!isText) {
      return super.rows(stage, most);
    }
    String row =
        stage.columns().stream()
            .map(part -> "ifnull('=' || " + name(part.column().name()) + ", '-')")
            .collect(Collectors.joining(", ", "concat_ws(char(31), ", ")"));
    String query = "SELECT " + row + " FROM " + session().quoted(stage.table()) + " LIMIT " + most;
    return new QueriedRows(
        session().connection(),
        query,
        (found, hasher) -> hash(found.getString(1).split(SEPARATOR, -1), hasher));
  }

  private static boolean isHeldAsText(ValueKind kind) {
    return kind != ValueKind.BINARY && kind != ValueKind.OTHER;
  }

  private static void hash(String[] fields, RowHasher hasher) {
    for (int i = 0; i < fields.length; i++) {
      int column = Math.min(i, hasher.columns() - 1);
      if (fields[i].startsWith("=")) {
        hasher.add(column, fields[i].substring(1));
      } else {
        hasher.addNull(column);
      }
    }
  }

  @Override
  public String same(Column column, String left, String right) {
    return left + " IS " + right + " COLLATE BINARY";
  }

  @Override
  public void index(StagingTable stage) throws SQLException {
    session()
        .change(
            "CREATE INDEX temp."
                + name(stage.name() + "_key")
                + " ON "
                + name(stage.name())
                + " ("
                + String.join(", ", stage.key().stream().map(this::name).toList())
                + ")");
  }

  @Override
  public boolean deferReferences() throws SQLException {
    session().change("PRAGMA defer_foreign_keys = ON");
    return true;
  }
}
