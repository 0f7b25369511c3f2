package org.wornladder.engine.mariadb;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HexFormat;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.JdbcStaging;
import org.wornladder.engine.Session;
import org.wornladder.engine.StagingTable;
import org.wornladder.engine.ValueKind;
import org.wornladder.engine.Values;
import org.wornladder.project.SeedRows;
import org.wornladder.schema.Column;
import org.wornladder.sql.Quoting;

/** Rows on their way into MariaDB: many in a message; values that do not fit are refused. */
final class MariadbStaging extends JdbcStaging {
  private static final int TOGETHER = 2000;
  private static final Set<String> WHOLE =
      Set.of("tinyint", "smallint", "mediumint", "int", "bigint", "year");
  private static final Set<String> TEXTS =
      Set.of("char", "varchar", "tinytext", "text", "mediumtext", "longtext", "enum", "set");

  /** Types that an expression would turn into others. */
  private static final Set<String> KEPT =
      Set.of("enum", "set", "bit", "float", "year", "timestamp");

  private static final Pattern COLUMN = Pattern.compile("(?:for column|column) (\\S+)");
  private static final Pattern VALUE = Pattern.compile(": '.*");

  private final MariadbServer server;

  /** How many copies have been made. */
  private int copies;

  MariadbStaging(Session session, Quoting quoting, MariadbServer server) {
    super(session, quoting);
    this.server = server;
  }

  /** MySQL manual, "TEMPORARY Table Problems". */
  @Override
  public StagingTable again(StagingTable stage) throws SQLException {
    if (!server.isMysql()) {
      return stage;
    }
    copies++;
    StagingTable copy = stage.named(stage.name() + "_" + copies);
    session().change(createText() + staged(copy) + " LIKE " + staged(stage));
    session().noteTemporary(dropping(copy));
    session().change("INSERT INTO " + staged(copy) + " SELECT * FROM " + staged(stage));
    return copy;
  }

  /**
   * Without strict mode values would be cut to fit (documentation, "SQL_MODE"). A transaction that
   * only reads makes no temporary table (documentation, "START TRANSACTION").
   */
  @Override
  public void open() throws SQLException {
    session().change("SET SESSION TRANSACTION READ WRITE");
    session().change("SET SESSION time_zone = '+00:00'");
    session()
        .change(
            "SET SESSION sql_mode = concat(@@sql_mode,"
                + " ',STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ZERO_IN_DATE')");
  }

  @Override
  protected String free(String expression, Column column) {
    return KEPT.contains(word(column)) ? expression : "CASE WHEN 1 = 0 THEN " + expression + " END";
  }

  @Override
  public String literal(ValueKind kind, String text) throws BadValueException {
    return switch (kind) {
      case TRUTH -> truth(text);
      case MOMENT -> super.literal(kind, Values.withoutZone(text));
      case OTHER -> text.matches("\\d{1,18}") ? text : super.literal(kind, text);
      default -> super.literal(kind, text);
    };
  }

  @Override
  protected String dropping(StagingTable stage) {
    return "DROP TEMPORARY TABLE " + staged(stage);
  }

  private static String word(Column column) {
    return column.type().replaceFirst("[ (].*", "");
  }

  @Override
  protected String inOrder() {
    return " (" + LINE + " bigint NOT NULL PRIMARY KEY)";
  }

  @Override
  protected String lineType() {
    return "signed";
  }

  @Override
  protected ValueKind kindOf(Column column) {
    String type = column.type();
    String word = word(column);
    if (type.startsWith("tinyint(1)")) {
      return ValueKind.TRUTH;
    }
    if (WHOLE.contains(word)) {
      return ValueKind.WHOLE;
    }
    if (TEXTS.contains(word)) {
      return ValueKind.TEXT;
    }
    if (word.endsWith("blob") || word.endsWith("binary")) {
      return ValueKind.BINARY;
    }
    return switch (word) {
      case "decimal" -> ValueKind.DECIMAL;
      case "float", "double" -> ValueKind.FLOATING;
      case "date" -> ValueKind.DATE;
      case "datetime", "timestamp" -> ValueKind.MOMENT;
      default -> ValueKind.OTHER;
    };
  }

  @Override
  protected void bind(PreparedStatement sql, int index, ValueKind kind, String text)
      throws SQLException, BadValueException {
    switch (kind) {
      case TRUTH -> sql.setString(index, truth(text));
      case MOMENT -> sql.setString(index, Values.withoutZone(text));
      case OTHER -> {
        if (text.matches("\\d{1,18}")) {
          // Bits are written as the number that they make.
          sql.setLong(index, Long.parseLong(text));
        } else {
          sql.setString(index, text);
        }
      }
      default -> super.bind(sql, index, kind, text);
    }
  }

  @Override
  public void check(ValueKind kind, String text) throws BadValueException {
    if (kind == ValueKind.TRUTH) {
      truth(text);
    } else {
      super.check(kind, text);
    }
  }

  /** A number of one digit may hold others than 0 and 1. */
  private static String truth(String text) throws BadValueException {
    return text.matches("-?\\d{1,3}") ? text : Values.truth(text) ? "1" : "0";
  }

  @Override
  public Optional<String> read(ResultSet row, int index, Column column) throws SQLException {
    if (word(column).equals("bit")) {
      long bits = row.getLong(index);
      return row.wasNull() ? Optional.empty() : Optional.of(Long.toString(bits));
    }
    return kind(column) == ValueKind.TRUTH
        ? Optional.ofNullable(row.getString(index)).map(MariadbStaging::shown)
        : super.read(row, index, column);
  }

  private static String shown(String number) {
    return switch (number) {
      case "0", "false" -> "false";
      case "1", "true" -> "true";
      default -> number;
    };
  }

  /**
   * By LOAD DATA where the server takes it, and all values can travel as text (documentation, "LOAD
   * DATA INFILE").
   */
  @Override
  public void load(StagingTable stage, SeedRows rows) throws SQLException {
    boolean plain =
        stage.columns().stream().noneMatch(part -> kind(part.column()) == ValueKind.OTHER);
    if (plain && session().connection() instanceof org.mariadb.jdbc.Connection && takesFiles()) {
      new MariadbLoad(session(), stage, this).load(rows);
    } else {
      super.load(stage, rows);
    }
  }

  private boolean takesFiles() throws SQLException {
    try (java.sql.Statement sql = session().connection().createStatement();
        ResultSet row = sql.executeQuery("SELECT @@global.local_infile")) {
      return row.next() && row.getBoolean(1);
    }
  }

  /** A value as LOAD DATA takes it. */
  static String written(ValueKind kind, String text) throws BadValueException {
    switch (kind) {
      case TRUTH -> {
        return truth(text);
      }
      case MOMENT -> {
        return Values.withoutZone(text);
      }
      case BINARY -> {
        return HexFormat.of().formatHex(Values.bytes(text));
      }
      case WHOLE -> Values.checkWhole(text);
      case DECIMAL, FLOATING -> Values.checkNumber(text);
      case DATE -> Values.checkDate(text);
      default -> {
        return text;
      }
    }
    return text;
  }

  @Override
  protected int together() {
    return TOGETHER;
  }

  @Override
  protected String words(SQLException e) {
    return words(session().fault(e).message());
  }

  /** The server's words without the row, which counts from elsewhere, and without the value. */
  static String words(String words) {
    return VALUE.matcher(words.replaceFirst(" at row \\d+$", "")).replaceFirst("");
  }

  @Override
  protected Optional<String> columnIn(SQLException e) {
    return columnIn(session().fault(e).message());
  }

  static Optional<String> columnIn(String words) {
    Matcher column = COLUMN.matcher(words);
    if (!column.find()) {
      return Optional.empty();
    }
    String name = column.group(1).replaceAll(".*\\.", "");
    return Optional.of(name.replaceAll("^['`]|['`]$", ""));
  }

  /** Texts by their bytes: a collation may take two of them for one. */
  @Override
  public String same(Column column, String left, String right) {
    return kind(column) == ValueKind.TEXT
        ? "CAST(" + left + " AS BINARY) <=> CAST(" + right + " AS BINARY)"
        : left + " <=> " + right;
  }

  @Override
  public String assign(StagingTable stage, Map<String, String> values, String condition) {
    return "UPDATE "
        + session().quoted(stage.table())
        + " t JOIN "
        + staged(stage)
        + " s ON "
        + matching(stage)
        + " SET "
        + assignments(values, "t.")
        + " WHERE "
        + condition;
  }

  /** A table that is changed cannot be asked in the same statement but by a join. */
  @Override
  public String resolve(
      StagingTable stage, String column, String part, String from, String value, Column meaning) {
    return "UPDATE "
        + staged(stage)
        + " s JOIN "
        + from
        + " r ON "
        + equal(meaning, "r." + name(meaning.name()), "s." + name(part))
        + " SET s."
        + name(column)
        + " = r."
        + name(value)
        + " WHERE s."
        + name(column)
        + " IS NULL";
  }

  @Override
  public String delete(StagingTable stage) {
    return "DELETE t FROM " + session().quoted(stage.table()) + " t WHERE " + extra(stage);
  }

  @Override
  public void index(StagingTable stage) throws SQLException {
    session()
        .change(
            "ALTER TABLE "
                + name(stage.name())
                + " ADD INDEX ("
                + stage.key().stream().map(this::name).collect(Collectors.joining(", "))
                + ")");
  }
}
