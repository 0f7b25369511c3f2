package org.wornladder.engine.h2;

import java.sql.Array;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.JdbcStaging;
import org.wornladder.engine.JsonLists;
import org.wornladder.engine.Session;
import org.wornladder.engine.StagingTable;
import org.wornladder.engine.ValueKind;
import org.wornladder.engine.Values;
import org.wornladder.schema.Column;
import org.wornladder.schema.Table;
import org.wornladder.sql.Quoting;

/** Rows on their way into H2. */
final class H2Staging extends JdbcStaging {
  H2Staging(Session session, Quoting quoting) {
    super(session, quoting);
  }

  @Override
  public void open() throws SQLException {
    session().change("SET TIME ZONE 'UTC'");
  }

  @Override
  protected String createText() {
    return "CREATE LOCAL TEMPORARY TABLE ";
  }

  @Override
  protected ValueKind kindOf(Column column) {
    String type = column.type();
    if (type.contains("ARRAY")) {
      return ValueKind.LIST;
    }
    if (type.startsWith("BINARY")) {
      return ValueKind.BINARY;
    }
    if (type.startsWith("TIMESTAMP")) {
      return ValueKind.MOMENT;
    }
    if (type.startsWith("NUMERIC") || type.startsWith("DECIMAL")) {
      return ValueKind.DECIMAL;
    }
    return switch (type) {
      case "BOOLEAN" -> ValueKind.TRUTH;
      case "TINYINT", "SMALLINT", "INTEGER", "BIGINT" -> ValueKind.WHOLE;
      case "REAL", "DOUBLE PRECISION" -> ValueKind.FLOATING;
      case "DATE" -> ValueKind.DATE;
      case "JSON" -> ValueKind.JSON;
      default -> type.startsWith("CHARACTER") ? ValueKind.TEXT : ValueKind.OTHER;
    };
  }

  @Override
  public String literal(ValueKind kind, String text) throws BadValueException {
    return switch (kind) {
      case JSON -> super.literal(kind, text) + " FORMAT JSON";
      case LIST -> array(JsonLists.read(text));
      default -> super.literal(kind, text);
    };
  }

  private static String array(List<?> values) {
    List<String> elements = new ArrayList<>();
    for (Object value : values) {
      elements.add(
          value instanceof List<?> list
              ? array(list)
              : value == null ? "NULL" : H2Engine.QUOTING.text(value.toString()));
    }
    return "ARRAY[" + String.join(", ", elements) + "]";
  }

  @Override
  protected String place(ValueKind kind) {
    return kind == ValueKind.JSON ? "? FORMAT JSON" : "?";
  }

  @Override
  protected void bind(PreparedStatement sql, int index, ValueKind kind, String text)
      throws SQLException, BadValueException {
    switch (kind) {
      case LIST -> sql.setObject(index, JsonLists.read(text).toArray());
      case WHOLE -> sql.setLong(index, Values.whole(text));
      default -> super.bind(sql, index, kind, text);
    }
  }

  /** H2 adds the value in quotes behind its words. */
  @Override
  protected String words(SQLException e) {
    String words = session().fault(e).message();
    int value = words.indexOf(" \"");
    return value < 0 ? words : words.substring(0, value);
  }

  @Override
  public Optional<String> read(ResultSet row, int index, Column column) throws SQLException {
    if (kind(column) != ValueKind.LIST) {
      return super.read(row, index, column);
    }
    Array list = row.getArray(index);
    if (list == null) {
      return Optional.empty();
    }
    return Optional.of(JsonLists.write((Object[]) list.getArray()));
  }

  @Override
  public String same(Column column, String left, String right) {
    boolean folds = column.type().startsWith("VARCHAR_IGNORECASE");
    return folds
        ? "CAST(" + left + " AS VARCHAR) IS NOT DISTINCT FROM CAST(" + right + " AS VARCHAR)"
        : left + " IS NOT DISTINCT FROM " + right;
  }

  @Override
  public String assign(StagingTable stage, Map<String, String> values, String condition) {
    return "MERGE INTO "
        + session().quoted(stage.table())
        + " t USING "
        + staged(stage)
        + " s ON "
        + matching(stage)
        + " WHEN MATCHED AND "
        + condition
        + " THEN UPDATE SET "
        + assignments(values, "");
  }

  @Override
  protected String alias() {
    return " t";
  }

  @Override
  protected String overriding() {
    return " OVERRIDING SYSTEM VALUE";
  }

  @Override
  public void index(StagingTable stage) throws SQLException {
    session()
        .change(
            "CREATE INDEX "
                + name(stage.name() + "_key")
                + " ON "
                + name(stage.name())
                + " ("
                + stage.key().stream().map(this::name).collect(Collectors.joining(", "))
                + ")");
  }

  /** It changes the table's definition, which commits by itself. */
  @Override
  public boolean numbersJoinTransaction() {
    return false;
  }

  /** The next number stays where it is, unless rows were written at it or beyond. */
  @Override
  public List<String> numbersGoOn(Table table, Column column) throws SQLException {
    String numbers = session().quoted(table.name());
    String query =
        "SELECT max("
            + name(column.name())
            + ") FROM "
            + numbers
            + " HAVING max("
            + name(column.name())
            + ") >= (SELECT min(identity_base) FROM information_schema.columns WHERE table_schema ="
            + " current_schema AND table_name = ? AND column_name = ?)";
    try (PreparedStatement sql = session().connection().prepareStatement(query)) {
      sql.setString(1, table.name());
      sql.setString(2, column.name());
      try (ResultSet row = sql.executeQuery()) {
        return row.next()
            ? List.of(
                "ALTER TABLE "
                    + numbers
                    + " ALTER COLUMN "
                    + name(column.name())
                    + " RESTART WITH "
                    + (row.getLong(1) + 1))
            : List.of();
      }
    }
  }
}
