package org.wornladder.engine.postgres;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyIn;
import org.postgresql.copy.CopyOut;
import org.postgresql.util.PSQLException;
import org.postgresql.util.ServerErrorMessage;
import org.wornladder.ProjectException;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.BulkRows;
import org.wornladder.engine.Fault;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StagingTable;
import org.wornladder.engine.TableRows;
import org.wornladder.engine.ValueKind;
import org.wornladder.engine.Values;
import org.wornladder.project.RowHasher;
import org.wornladder.project.SeedRows;
import org.wornladder.schema.Column;
import org.wornladder.schema.Table;
import org.wornladder.sql.Quoting;

/** Rows on their way into PostgreSQL, by COPY (manual, "COPY", text format). */
final class PostgresStaging extends Staging {
  private static final Pattern WHERE =
      Pattern.compile("line (\\d+)(?:, column ([^:]+))?", Pattern.DOTALL);
  private static final Pattern VALUE = Pattern.compile(": \".*\"", Pattern.DOTALL);

  private final PostgresSession server;

  private PostgresEquality equality = PostgresEquality.OF_THE_SERVER;

  /**
   * @param session through which statements go
   * @param server the session behind it
   */
  PostgresStaging(Session session, PostgresSession server, Quoting quoting) {
    super(session, quoting);
    this.server = server;
  }

  @Override
  public String literal(ValueKind kind, String text) throws BadValueException {
    return PostgresEngine.QUOTING.text(PostgresCopyRows.written(kind, text));
  }

  @Override
  public void open() throws SQLException {
    session()
        .change("SET TIME ZONE 'UTC'; SET DateStyle = 'ISO, YMD'; SET IntervalStyle = 'iso_8601'");
    equality = PostgresEquality.read(server);
  }

  /** A transaction that only reads takes rows into a temporary table, but makes none. */
  @Override
  protected String making(StagingTable stage) {
    return "BEGIN READ WRITE; " + creation(stage) + "; COMMIT";
  }

  @Override
  protected String dropping(StagingTable stage) {
    return "BEGIN READ WRITE; " + super.dropping(stage) + "; COMMIT";
  }

  @Override
  protected boolean keepsOrder() {
    return false;
  }

  @Override
  public String staged(StagingTable stage) {
    return "pg_temp." + name(stage.name());
  }

  @Override
  protected ValueKind kindOf(Column column) {
    String type = column.type();
    if (type.endsWith("[]")) {
      return ValueKind.LIST;
    }
    return switch (type.replaceFirst("[ (].*", "")) {
      case "bytea" -> ValueKind.BINARY;
      case "boolean" -> ValueKind.TRUTH;
      case "smallint", "integer", "bigint" -> ValueKind.WHOLE;
      case "numeric" -> ValueKind.DECIMAL;
      case "json", "jsonb" -> ValueKind.JSON;
      case "text", "character" -> ValueKind.TEXT;
      case "date" -> ValueKind.DATE;
      case "timestamp" -> ValueKind.MOMENT;
      default -> ValueKind.OTHER;
    };
  }

  @Override
  public void load(StagingTable stage, SeedRows rows) throws SQLException {
    String columns =
        stage.columns().stream().map(part -> name(part.name())).collect(Collectors.joining(", "));
    String copy = "COPY " + staged(stage) + " (" + LINE + ", " + columns + ") FROM STDIN";
    CopyIn in = driver().getCopyAPI().copyIn(copy);
    try {
      List<ValueKind> kinds = stage.columns().stream().map(part -> kind(part.column())).toList();
      new BulkRows(
              rows,
              kinds,
              PostgresCopyRows::written,
              (bytes, length) -> in.writeToCopy(bytes, 0, length))
          .writeAll();
      in.endCopy();
    } catch (SQLException e) {
      throw located(e, rows);
    } finally {
      if (in.isActive()) {
        in.cancelCopy();
      }
    }
  }

  private PGConnection driver() throws SQLException {
    Connection connection = session().connection();
    return connection.unwrap(PGConnection.class);
  }

  /** A refused value as a fault of the file, with its place; any other failure as it is. */
  private SQLException located(SQLException e, SeedRows rows) {
    Optional<ServerErrorMessage> said =
        e instanceof PSQLException failure
            ? Optional.ofNullable(failure.getServerErrorMessage())
            : Optional.empty();
    Matcher where = WHERE.matcher(said.map(ServerErrorMessage::getWhere).orElse(""));
    if (session().fault(e).kind() != Fault.Kind.STATEMENT || !where.find()) {
      return e;
    }
    long number = Long.parseLong(where.group(1));
    String column = where.group(2) == null ? "" : "column " + where.group(2) + ": ";
    String words = VALUE.matcher(said.orElseThrow().getMessage()).replaceFirst("");
    throw ProjectException.of(rows.place(position(rows, number)), column + words, "");
  }

  @Override
  public TableRows rows(StagingTable stage, long most) throws SQLException {
    String columns =
        stage.columns().stream()
            .map(part -> name(part.column().name()))
            .collect(Collectors.joining(", "));
    String query = "SELECT " + columns + " FROM " + session().quoted(stage.table());
    return new CopiedRows(
        driver().getCopyAPI().copyOut("COPY (" + query + " LIMIT " + most + ") TO STDOUT"));
  }

  /** Rows of a table as COPY gives them. */
  private record CopiedRows(CopyOut out) implements TableRows {
    @Override
    public boolean next(RowHasher hasher) throws SQLException {
      byte[] line = out.readFromCopy();
      if (line != null) {
        PostgresCopyRows.hash(line, hasher);
      }
      return line != null;
    }

    /** Reads to the end: a COPY that is cancelled takes its transaction with it. */
    @Override
    public void close() throws SQLException {
      while (out.isActive()) {
        out.readFromCopy();
      }
    }
  }

  @Override
  public Optional<String> read(ResultSet row, int index, Column column) throws SQLException {
    return Optional.ofNullable(row.getString(index)).map(text -> shown(column, text));
  }

  private String shown(Column column, String text) {
    return switch (kind(column)) {
      case BINARY -> text.startsWith("\\x") ? PostgresCopyRows.base64(text) : text;
      case TRUTH -> text.equals("t") ? "true" : "false";
      default -> text;
    };
  }

  @Override
  protected Optional<UnaryOperator<String>> canonical(Column column) {
    return switch (kind(column)) {
      case TRUTH -> Optional.of(PostgresStaging::truth);
      case BINARY -> Optional.of(PostgresStaging::hexadecimal);
      default -> super.canonical(column);
    };
  }

  private static String truth(String text) {
    try {
      return Values.truth(text) ? "t" : "f";
    } catch (BadValueException e) {
      return text;
    }
  }

  private static String hexadecimal(String text) {
    try {
      return text.startsWith(Values.BASE64) ? PostgresCopyRows.hexadecimal(text) : text;
    } catch (BadValueException e) {
      return text;
    }
  }

  /** It reads more forms of times than others, and blanks around values. */
  @Override
  public void check(ValueKind kind, String text) throws BadValueException {
    switch (kind) {
      case DATE, MOMENT -> checkDate(kind, text.strip());
      case TIME -> {}
      default -> super.check(kind, text.strip());
    }
  }

  /** Dates in other forms than that of ISO 8601 are the database's to read. */
  private static void checkDate(ValueKind kind, String text) throws BadValueException {
    boolean endless = text.matches("-?infinity");
    if (kind == ValueKind.DATE && !endless) {
      Values.checkDate(text);
    } else if (text.matches("\\d{4}-\\d{2}-\\d{2}.*")) {
      Values.checkDate(text.substring(0, 10));
    } else {
      PostgresCopyRows.notNumber(text);
    }
  }

  @Override
  public String same(Column column, String left, String right) {
    return "coalesce("
        + equality.same(column, left, right)
        + ", %s IS NULL AND %s IS NULL)".formatted(left, right);
  }

  @Override
  public String equal(Column column, String left, String right) {
    return equality.equal(column, left, right);
  }

  @Override
  public String standInText(String of) {
    return "pg_catalog.concat('~', " + of + ")";
  }

  @Override
  protected String overriding() {
    return " OVERRIDING SYSTEM VALUE";
  }

  /** The planner knows nothing of a new table's rows. */
  @Override
  public void index(StagingTable stage) throws SQLException {
    session().change("ANALYZE " + staged(stage));
  }

  @Override
  public boolean deferReferences() throws SQLException {
    session().change("SET CONSTRAINTS ALL DEFERRED");
    return false;
  }

  /** A sequence never goes back. */
  @Override
  public List<String> numbersGoOn(Table table, Column column) throws SQLException {
    String quoted = session().quoted(table.name());
    String highest = "(SELECT pg_catalog.max(" + name(column.name()) + ") FROM " + quoted + ")";
    String sequence =
        "pg_catalog.pg_get_serial_sequence("
            + PostgresEngine.QUOTING.text(quoted)
            + ", "
            + PostgresEngine.QUOTING.text(column.name())
            + ")";
    try (java.sql.Statement sql = session().connection().createStatement();
        ResultSet row = sql.executeQuery("SELECT " + sequence + ", " + highest)) {
      row.next();
      if (row.getString(1) == null || row.getString(2) == null) {
        return List.of();
      }
      // The first number is the next one until it was called for.
      String set =
          "SELECT pg_catalog.setval(%1$s, %2$s) FROM %3$s WHERE last_value < %2$s"
              + " OR last_value = %2$s AND NOT is_called";
      set =
          set.formatted(
              PostgresEngine.QUOTING.text(row.getString(1)), row.getString(2), row.getString(1));
      return List.of(set);
    }
  }
}
