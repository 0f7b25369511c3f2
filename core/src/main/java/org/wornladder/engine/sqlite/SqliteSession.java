package org.wornladder.engine.sqlite;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.sqlite.JDBC;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteErrorCode;
import org.sqlite.SQLiteException;
import org.sqlite.SQLiteOpenMode;
import org.wornladder.Advice;
import org.wornladder.UnreachableException;
import org.wornladder.change.Ddl;
import org.wornladder.engine.Access;
import org.wornladder.engine.BorrowedConnection;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.Fault;
import org.wornladder.engine.JdbcSession;
import org.wornladder.engine.Session;
import org.wornladder.engine.SessionRestore;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StatementMeter;
import org.wornladder.engine.Target;
import org.wornladder.project.Condition;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/** A connection to one SQLite database. */
final class SqliteSession extends JdbcSession {
  private static final Pattern NEAR = Pattern.compile("^near \"(.+)\": syntax error$");

  private static final Quoting QUOTING = new Quoting('"', Quoting.Backslash.PLAIN);
  private final SqliteFile file;
  private final Target target;
  private final boolean there;

  /** The tables as they were last read; see {@link SqliteStructure#tables}. */
  private Map<List<String>, Table> tablesRead = Map.of();

  /** What was broken before a transaction in which foreign keys are not enforced. */
  private Optional<ForeignKeyCheck> brokenBefore = Optional.empty();

  private SqliteSession(Connection connection, SqliteFile file, Target target, boolean there)
      throws SQLException {
    super(connection, QUOTING);
    this.file = file;
    this.target = target;
    this.there = there;
  }

  private static SQLiteConfig config() {
    SQLiteConfig config = new SQLiteConfig();
    // Otherwise the driver asks for the last row's number behind every insertion.
    config.setGetGeneratedKeys(false);
    return config;
  }

  static SqliteSession open(Target target, Access access) {
    SqliteFile file = SqliteFile.of(target.environment().url(), target.root());
    file.check(target, access);
    boolean there = file.isThere();
    SQLiteConfig config = config();
    config.setBusyTimeout((int) Math.min(Integer.MAX_VALUE, target.lockWait().toMillis()));
    config.enforceForeignKeys(target.environment().settings().foreignKeys());
    if (access == Access.READ && there) {
      config.resetOpenMode(SQLiteOpenMode.CREATE);
    }
    try {
      Connection connection =
          target.dataSource().isPresent()
              ? BorrowedConnection.of(target, file.shown(), access, SqliteBorrowed::note)
              : JDBC.createConnection(file.url(access), config.toProperties());
      return opened(
          connection,
          () -> {
            SqliteSession session = new SqliteSession(connection, file, target, there);
            session.touch();
            if (target.dataSource().isPresent()) {
              session.configure();
            }
            if (access == Access.WRITE) {
              session.keepRollbackJournal();
            }
            return session;
          });
    } catch (SQLException e) {
      throw unreachable(target, file, e);
    }
  }

  /** Sets what a connection of our own is opened with. */
  private void configure() throws SQLException {
    long wait = Math.min(Integer.MAX_VALUE, target.lockWait().toMillis());
    control().execute("PRAGMA busy_timeout = " + wait);
    control()
        .execute(
            "PRAGMA foreign_keys = "
                + (target.environment().settings().foreignKeys() ? "ON" : "OFF"));
  }

  /** Reads a little, so that a file that is no database is found out here. */
  private void touch() throws SQLException {
    try (ResultSet rows = control().executeQuery("SELECT count(*) FROM sqlite_schema")) {
      rows.next();
    }
  }

  /**
   * Keeps SQLite's own rollback journal from one transaction to the next: a run of many commits
   * then makes no new file for each (SQLite's documentation, "PRAGMA journal_mode"). Another mode
   * that the database or its URL has stays.
   */
  private void keepRollbackJournal() throws SQLException {
    if (pragma("journal_mode").equals("delete")) {
      pragma("journal_mode = PERSIST");
    }
  }

  private void deleteRollbackJournal() throws SQLException {
    if (pragma("journal_mode").equals("persist")) {
      pragma("journal_mode = DELETE");
    }
  }

  private String pragma(String text) throws SQLException {
    try (ResultSet rows = control().executeQuery("PRAGMA " + text)) {
      return rows.next() ? rows.getString(1) : "";
    }
  }

  private static UnreachableException unreachable(Target target, SqliteFile file, SQLException e) {
    Fault fault = faultOf(e);
    String where = "environment " + target.environment().name() + ", " + file.shown();
    return switch (fault.kind()) {
      case NOT_A_DATABASE ->
          new UnreachableException(
              "the file is not a SQLite database",
              where,
              "see that the url names the right file",
              e);
      case BUSY ->
          new UnreachableException(
              "another program holds the database", where, Advice.of(Advice.Code.WAIT_LONGER), e);
      default ->
          new UnreachableException(
              "the database cannot be opened: " + fault.message(),
              where,
              "see the url in ladder.yaml",
              e);
    };
  }

  @Override
  public boolean isThere() {
    return there;
  }

  @Override
  public String address() {
    return file.shown();
  }

  @Override
  public String user() {
    return "";
  }

  @Override
  public String id() {
    return "process " + ProcessHandle.current().pid();
  }

  /**
   * Foreign keys are switched off before the transaction, where a statement does so: inside one the
   * pragma has no effect, and a table that is dropped would delete the rows that point to it
   * (SQLite documentation, "PRAGMA foreign_keys", "DROP TABLE").
   */
  @Override
  public List<String> settingsBefore(List<Statement> statements) {
    boolean on = target.environment().settings().foreignKeys() && !isUnchecked(statements);
    return List.of("PRAGMA foreign_keys = " + (on ? "ON" : "OFF"));
  }

  private static boolean isUnchecked(List<Statement> statements) {
    return statements.stream()
        .anyMatch(
            one ->
                SqliteObjections.turnsForeignKeysOff(one) || SqliteAlteration.of(one).isPresent());
  }

  @Override
  public List<Statement> carriedOutBy(Statement statement) throws SQLException {
    Optional<SqliteAlteration> alteration = SqliteAlteration.of(statement);
    if (alteration.isEmpty()) {
      return List.of(statement);
    }
    List<Statement> parts = new ArrayList<>();
    for (String text :
        alteration
            .get()
            .statements(structure(List.of()).snapshot(), new SqliteDdl(), statement.text())) {
      parts.add(statement.withText(text));
    }
    return parts;
  }

  @Override
  public Optional<StatementMeter> meter() {
    return file.path().map(path -> new SqliteMeter(this, path));
  }

  /** A statement that SQLite lacks is run as those that make up for it. */
  @Override
  public void execute(Statement statement) throws SQLException {
    List<Statement> parts = carriedOutBy(statement);
    try {
      for (Statement part : parts) {
        super.execute(part);
      }
    } catch (SQLException e) {
      // It is the rung's own statement that failed.
      runs(statement);
      throw e;
    }
    if (parts.size() > 1) {
      control().execute("PRAGMA legacy_alter_table = OFF");
    }
  }

  @Override
  public void begin(List<Statement> statements) throws SQLException {
    for (String setting : settingsBefore(statements)) {
      control().execute(setting);
    }
    begin();
    brokenBefore =
        isUnchecked(statements) ? Optional.of(ForeignKeyCheck.before(control())) : Optional.empty();
  }

  @Override
  public void commit() throws SQLException {
    if (brokenBefore.isPresent()) {
      brokenBefore.get().refuseMore(control());
    }
    super.commit();
    brokenBefore = Optional.empty();
  }

  @Override
  protected String beginText() {
    return "BEGIN IMMEDIATE";
  }

  @Override
  public void rollback() throws SQLException {
    brokenBefore = Optional.empty();
    try {
      super.rollback();
    } catch (SQLException e) {
      // After a full disk or the like SQLite has rolled back by itself.
      if (!faultOf(e).message().contains("no transaction is active")) {
        throw e;
      }
    }
  }

  @Override
  public void reset() throws SQLException {
    boolean on = target.environment().settings().foreignKeys();
    control().execute("PRAGMA foreign_keys = " + (on ? "ON" : "OFF"));
    control().execute("PRAGMA legacy_alter_table = OFF");
  }

  @Override
  public DatabaseLock lock(Duration wait, Consumer<String> onWait) {
    if (file.path().isEmpty()) {
      return () -> {};
    }
    String holder = id() + " of " + System.getProperty("user.name");
    String where = "environment " + target.environment().name() + ", " + file.shown();
    return SqliteLock.take(file.path().get(), where, holder, wait, onWait);
  }

  @Override
  public Optional<String> suspicion(String table, Optional<String> owner) throws SQLException {
    return value(
            "SELECT min(name) FROM sqlite_schema WHERE type = 'trigger' AND tbl_name = "
                + QUOTING.text(table)
                + " COLLATE NOCASE")
        .map(trigger -> "the trigger " + trigger + " is on it");
  }

  @Override
  public Optional<String> lockHolder() throws SQLException {
    return file.path().isEmpty() ? Optional.empty() : SqliteLock.holder(file.path().get());
  }

  @Override
  public Staging stagingThrough(Session other) {
    return new SqliteStaging(other, QUOTING);
  }

  @Override
  public void empty(List<String> last) throws SQLException {
    SqliteCleaner.empty(this, last);
  }

  @Override
  public Ddl ddl() {
    return new SqliteDdl();
  }

  @Override
  public Schema structure(List<String> without) throws SQLException {
    // Outside of a transaction a savepoint begins one (SQLite's documentation, "SAVEPOINT").
    control().execute("SAVEPOINT ladder_structure");
    try (SessionRestore after = () -> control().execute("RELEASE ladder_structure")) {
      SqliteStructure structure = new SqliteStructure(control(), without, tablesRead);
      Schema read = structure.read();
      tablesRead = structure.tables();
      return read;
    }
  }

  @Override
  public boolean exists(Condition.Presence object) throws SQLException {
    String name = object.table();
    int dot = name.indexOf('.');
    String database = name.substring(0, Math.max(0, dot));
    return exists(object, "main", name)
        || dot > 0
            && hasRow("SELECT 1 FROM pragma_database_list WHERE name = ?", database)
            && exists(object, database, name.substring(dot + 1));
  }

  private boolean exists(Condition.Presence object, String database, String name)
      throws SQLException {
    if (object.kind() == Condition.Kind.COLUMN) {
      String query = "SELECT 1 FROM pragma_table_xinfo(?, ?) WHERE name = ? COLLATE NOCASE";
      return hasRow(query, name, database, object.column());
    }
    String query =
        "SELECT 1 FROM "
            + QUOTING.name(database)
            + ".sqlite_schema WHERE name = ? COLLATE NOCASE AND type = lower(?)";
    return hasRow(query, name, object.kind().name());
  }

  @Override
  public boolean holds(String query) throws SQLException {
    control().execute("PRAGMA query_only = ON");
    try (SessionRestore after = () -> control().execute("PRAGMA query_only = OFF")) {
      return isTrue(query);
    }
  }

  @Override
  public Fault fault(SQLException e) {
    return faultOf(e);
  }

  /** Where the token stands that the parser did not expect, if it is there once. */
  @Override
  public OptionalInt offset(Statement statement, SQLException e) {
    Matcher near = NEAR.matcher(faultOf(e).message());
    if (!near.find()) {
      return OptionalInt.empty();
    }
    String text = statement.text();
    int first = text.indexOf(near.group(1));
    return first >= 0 && first == text.lastIndexOf(near.group(1))
        ? OptionalInt.of(first)
        : OptionalInt.empty();
  }

  private static Fault faultOf(SQLException e) {
    if (!(e instanceof SQLiteException failure)) {
      return new Fault(Fault.Kind.STATEMENT, String.valueOf(e.getMessage()));
    }
    SQLiteErrorCode code = failure.getResultCode();
    Fault.Kind kind =
        switch (code.code & 0xff) {
          case 5, 6 -> Fault.Kind.BUSY;
          case 8 -> Fault.Kind.READ_ONLY;
          case 13 -> Fault.Kind.FULL;
          case 26 -> Fault.Kind.NOT_A_DATABASE;
          default -> Fault.Kind.STATEMENT;
        };
    return new Fault(kind, words(String.valueOf(e.getMessage()), code));
  }

  /** The driver writes {@code [CODE] its words (the database's words)}. */
  private static String words(String message, SQLiteErrorCode code) {
    int open = message.indexOf(code.message + " (");
    return open >= 0 && message.endsWith(")")
        ? message.substring(open + code.message.length() + 2, message.length() - 1)
        : message;
  }

  @Override
  protected void beforeClose() throws SQLException {
    deleteRollbackJournal();
  }
}
