package org.wornladder.engine.h2;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Properties;
import java.util.function.Consumer;
import org.h2.Driver;
import org.h2.api.ErrorCode;
import org.wornladder.UnreachableException;
import org.wornladder.change.Ddl;
import org.wornladder.engine.Access;
import org.wornladder.engine.ConnectionAttempts;
import org.wornladder.engine.ConnectionAttempts.Answer;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.Fault;
import org.wornladder.engine.JdbcSession;
import org.wornladder.engine.LockPolling;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StatementTarget;
import org.wornladder.engine.Target;
import org.wornladder.project.Condition;
import org.wornladder.project.Environment;
import org.wornladder.schema.Schema;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/** A connection to one H2 database. */
final class H2Session extends JdbcSession {
  private static final String REPEATED = "SQL statement \"";

  private static final Quoting QUOTING = H2Engine.QUOTING;

  /** How the key of a temporary table begins in {@code SESSION_STATE}. */
  private static final String TABLE_KEY = "TABLE ";

  private final Target target;
  private final H2Url url;
  private final boolean there;
  private final String id;
  private final String user;
  private final String schema;
  private final List<String> settings = new ArrayList<>();
  private boolean settingsMayHaveChanged;
  private boolean mayCheckpoint = true;

  private H2Session(Connection connection, Target target, H2Url url, boolean there)
      throws SQLException {
    super(connection, QUOTING);
    this.target = target;
    this.url = url;
    this.there = there;
    try (ResultSet row =
        control()
            .executeQuery(
                "SELECT session_id(), current_user, current_schema, lock_timeout(),"
                    + " (SELECT setting_value FROM information_schema.settings"
                    + " WHERE setting_name = 'TIME ZONE')")) {
      row.next();
      id = "session " + row.getString(1) + ", process " + ProcessHandle.current().pid();
      user = row.getString(2);
      schema = row.getString(3);
      settings.add("SET LOCK_TIMEOUT " + row.getLong(4));
      settings.add("SET TIME ZONE " + QUOTING.text(row.getString(5)));
    }
    settings.add("SET QUERY_TIMEOUT 0");
    settings.add("SET SCHEMA " + QUOTING.name(schema));
    settings.add("SET REFERENTIAL_INTEGRITY TRUE");
    target
        .environment()
        .settings()
        .patience()
        .ifPresent(limit -> settings.add("SET LOCK_TIMEOUT " + limit.toMillis()));
    target
        .environment()
        .settings()
        .statementTimeout()
        .ifPresent(limit -> settings.add("SET QUERY_TIMEOUT " + limit.toMillis()));
  }

  static H2Session open(Target target, Access access) {
    H2Url url = H2Url.of(target.environment().url(), target.root());
    String where = "environment " + target.environment().name() + ", " + url.shown();
    boolean there = url.isThere();
    if (url.runsStatements() && !target.environment().settings().clientFiles()) {
      throw new UnreachableException(
          "the url holds INIT=, which runs statements on this machine",
          where,
          "take it out, or client-files: allow under "
              + target.environment().name()
              + " in ladder.yaml allows it",
          null);
    }
    if (url.file().isPresent()) {
      checkFile(url, where);
    }
    // To read a database that is not there yet is to read an empty one.
    String jdbc = access == Access.READ && !there ? "jdbc:h2:mem:" : url.jdbc();
    Connection connection =
        ConnectionAttempts.patiently(
            target,
            url.shown(),
            access,
            () -> alone(target, url, jdbc, where),
            H2Borrowed::note,
            H2Session::answer);
    try {
      return opened(
          connection,
          () -> {
            H2Session session = new H2Session(connection, target, url, there);
            if (access == Access.WRITE) {
              session.settingsMayHaveChanged = true;
              session.reset();
            }
            return session;
          });
    } catch (SQLException e) {
      throw ConnectionAttempts.failure(target, url.shown(), e, answer(e));
    }
  }

  private static void checkFile(H2Url url, String where) {
    boolean named = !url.shown().isEmpty() && !url.shown().endsWith("/");
    Optional<Path> folder = url.file().map(Path::getParent);
    if (!named || folder.isEmpty()) {
      throw new UnreachableException(
          "the url names no database", where, "write a file behind " + H2Engine.JDBC, null);
    }
    if (!Files.isDirectory(folder.get())) {
      throw new UnreachableException(
          "the folder of the database is missing", where, "mkdir -p " + folder.get(), null);
    }
  }

  /** A file belongs to one program at a time; waits for the one that has it. */
  private static Connection alone(Target target, H2Url url, String jdbc, String where)
      throws SQLException {
    return LockPolling.take(
        () -> attempt(target, url, jdbc),
        () -> "the process that has " + url.shown() + " open",
        () -> "another process has this database open",
        where,
        target.lockWait(),
        target.onWait());
  }

  private static Optional<Connection> attempt(Target target, H2Url url, String jdbc)
      throws SQLException {
    try {
      return Optional.of(connect(target, url, jdbc));
    } catch (SQLException e) {
      if (e.getErrorCode() != ErrorCode.DATABASE_ALREADY_OPEN_1) {
        throw e;
      }
      return Optional.empty();
    }
  }

  static Connection connect(Target target, H2Url url, String jdbc) throws SQLException {
    Environment environment = target.environment();
    Properties properties = new Properties();
    environment.user().or(url::user).ifPresent(user -> properties.setProperty("user", user));
    environment
        .password()
        .or(url::password)
        .ifPresent(password -> properties.setProperty("password", password));
    Connection connection = new Driver().connect(jdbc, properties);
    if (connection == null) {
      throw new SQLException("the url is not one of H2's", "08001");
    }
    return connection;
  }

  private static Answer answer(SQLException e) {
    return switch (e.getErrorCode()) {
      case ErrorCode.WRONG_USER_OR_PASSWORD -> Answer.WRONG_CREDENTIALS;
      case ErrorCode.DATABASE_NOT_FOUND_WITH_IF_EXISTS_1, ErrorCode.REMOTE_DATABASE_NOT_FOUND_1 ->
          Answer.NO_DATABASE;
      case ErrorCode.CONNECTION_BROKEN_1 -> Answer.NOT_YET;
      default -> Answer.OTHER;
    };
  }

  @Override
  public boolean isThere() {
    return there;
  }

  @Override
  public String address() {
    return url.shown();
  }

  @Override
  public String user() {
    return user;
  }

  @Override
  public String id() {
    return id;
  }

  @Override
  public String quoted(String table) {
    return QUOTING.name(schema) + "." + QUOTING.name(table);
  }

  @Override
  public void begin() throws SQLException {
    connection().setAutoCommit(false);
    began();
  }

  @Override
  public void beginConsistentRead() throws SQLException {
    connection().setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
    begin();
  }

  @Override
  public void commit() throws SQLException {
    connection().commit();
    connection().setAutoCommit(true);
    ended();
    writeOut();
  }

  @Override
  public void rollback() throws SQLException {
    ended();
    connection().rollback();
    connection().setAutoCommit(true);
  }

  @Override
  public void execute(Statement statement) throws SQLException {
    settingsMayHaveChanged = true;
    super.execute(statement);
    if (!inTransaction()) {
      writeOut();
    }
  }

  /**
   * H2 writes to its file half a second late; what the journal says must not run ahead of the file.
   */
  private void writeOut() throws SQLException {
    if (url.file().isPresent() && mayCheckpoint) {
      try {
        control().execute("CHECKPOINT SYNC");
      } catch (SQLException e) {
        mayCheckpoint = e.getErrorCode() != ErrorCode.ADMIN_RIGHTS_REQUIRED;
        if (mayCheckpoint) {
          throw e;
        }
      }
    }
  }

  @Override
  public void reset() throws SQLException {
    if (settingsMayHaveChanged) {
      settingsMayHaveChanged = false;
      for (String setting : settings) {
        control().execute(setting);
      }
      forget();
    }
  }

  /** What a session has besides settings, as H2 says it ({@code SESSION_STATE}). */
  private void forget() throws SQLException {
    List<String> undoing = new ArrayList<>();
    try (ResultSet rows =
        control().executeQuery("SELECT state_key FROM information_schema.session_state")) {
      while (rows.next()) {
        String key = rows.getString(1);
        if (key.startsWith("@")) {
          undoing.add("SET @" + QUOTING.name(key.substring(1)) + " = NULL");
        } else if (key.startsWith(TABLE_KEY)) {
          undoing.add("DROP TABLE IF EXISTS " + QUOTING.name(key.substring(TABLE_KEY.length())));
        } else if (key.equals("SCHEMA_SEARCH_PATH")) {
          undoing.add("SET SCHEMA_SEARCH_PATH " + QUOTING.name(schema));
        }
      }
    }
    for (String undo : undoing) {
      control().execute(undo);
    }
  }

  @Override
  public DatabaseLock lock(Duration wait, Consumer<String> onWait) {
    String where = "environment " + target.environment().name() + ", " + url.shown();
    if (!url.shared()) {
      // The file is open for this process alone, so its own threads are all that can come.
      return H2Lock.amongThreads(url.jdbc(), where, wait, onWait);
    }
    return H2Lock.take(this, () -> connect(target, url, url.jdbc()), where, wait, onWait);
  }

  @Override
  public Optional<String> suspicion(String table, Optional<String> owner) throws SQLException {
    return value(
            "SELECT min(trigger_name) FROM information_schema.triggers WHERE event_object_schema = "
                + QUOTING.text(schema)
                + " AND upper(event_object_table) = upper("
                + QUOTING.text(table)
                + ")")
        .map(trigger -> "the trigger " + trigger + " is on it");
  }

  @Override
  public Optional<String> lockHolder() throws SQLException {
    return url.shared() ? H2Lock.holder(this) : H2Lock.holderAmongThreads(url.jdbc());
  }

  @Override
  public Staging stagingThrough(Session other) {
    return new H2Staging(other, QUOTING);
  }

  @Override
  public void empty(List<String> last) throws SQLException {
    H2Cleaner.empty(this, last);
  }

  @Override
  public Ddl ddl() {
    return new H2Ddl();
  }

  @Override
  public Schema structure(List<String> without) throws SQLException {
    List<String> own = new ArrayList<>(without);
    own.add(H2Lock.TABLE);
    return new H2Structure(control(), schema, own).read();
  }

  @Override
  public boolean exists(Condition.Presence object) throws SQLException {
    String name = object.table();
    return switch (object.kind()) {
      case TABLE -> has("tables", "table_name", name, "table_type <> 'VIEW'");
      case VIEW -> has("views", "table_name", name, "TRUE");
      case INDEX -> has("indexes", "index_name", name, "TRUE");
      case COLUMN ->
          has(
              "columns",
              "table_name",
              name,
              "upper(column_name) = upper(" + QUOTING.text(object.column()) + ")");
    };
  }

  /** Plain names are in upper case here, and people write them as they like. */
  private boolean has(String view, String column, String name, String condition)
      throws SQLException {
    return hasRow(
        "SELECT 1 FROM information_schema."
            + view
            + " WHERE (table_schema = ? AND upper("
            + column
            + ") = upper(?) OR upper(table_schema || '.' || "
            + column
            + ") = upper(?)) AND "
            + condition,
        schema,
        name,
        name);
  }

  /** H2 has no read-only transactions: what is not a query cannot be asked here. */
  @Override
  public boolean holds(String query) throws SQLException {
    return isTrue(query);
  }

  /** The statements that H2 itself would write for an object. */
  @Override
  public Optional<String> state(StatementTarget object) throws SQLException {
    return switch (object.kind()) {
      case TABLE -> exists(table(object)) ? Optional.of(there(script(object))) : missing();
      case VIEW -> ofView("views", "view_definition", "table_name", "table_schema", object);
      case INDEX -> ofView("indexes", "index_name", "index_name", "index_schema", object);
      case TRIGGER -> ofView("triggers", "trigger_name", "trigger_name", "trigger_schema", object);
      case SEQUENCE ->
          ofView(
              "sequences",
              "increment || ' ' || minimum_value || ' ' || maximum_value",
              "sequence_name",
              "sequence_schema",
              object);
      case COLUMN -> super.state(object);
      default -> Optional.empty();
    };
  }

  private static Optional<String> missing() {
    return Optional.of(StatementTarget.MISSING);
  }

  private static Condition.Presence table(StatementTarget object) {
    return new Condition.Presence(Condition.Kind.TABLE, object.name().text(), "", true, "");
  }

  /** The schema that a statement names, as it is written in the catalogue, or the session's. */
  private String schemaOf(StatementTarget object) throws SQLException {
    String named = object.name().schema();
    return named.isEmpty()
        ? schema
        : value(
                "SELECT schema_name FROM information_schema.schemata WHERE upper(schema_name) ="
                    + " upper("
                    + QUOTING.text(named)
                    + ")")
            .orElse(named);
  }

  private String script(StatementTarget object) throws SQLException {
    String name =
        value(
                "SELECT table_name FROM information_schema.tables WHERE table_schema = "
                    + QUOTING.text(schemaOf(object))
                    + " AND upper(table_name) = upper("
                    + QUOTING.text(object.name().plain())
                    + ")")
            .orElse(object.name().plain());
    StringBuilder script = new StringBuilder();
    try (ResultSet rows =
        control()
            .executeQuery(
                "SCRIPT NODATA NOPASSWORDS NOSETTINGS TABLE "
                    + QUOTING.name(schemaOf(object))
                    + "."
                    + QUOTING.name(name))) {
      while (rows.next()) {
        script.append(rows.getString(1)).append('\n');
      }
    }
    return script.toString();
  }

  private Optional<String> ofView(
      String view, String definition, String column, String schemaColumn, StatementTarget object)
      throws SQLException {
    Optional<String> found =
        value(
            "SELECT coalesce("
                + definition
                + ", '') FROM information_schema."
                + view
                + " WHERE "
                + schemaColumn
                + " = "
                + QUOTING.text(schemaOf(object))
                + " AND upper("
                + column
                + ") = upper("
                + QUOTING.text(object.name().plain())
                + ")");
    return Optional.of(found.map(JdbcSession::there).orElse(StatementTarget.MISSING));
  }

  @Override
  public Fault fault(SQLException e) {
    Fault.Kind kind =
        switch (e.getErrorCode()) {
          case ErrorCode.LOCK_TIMEOUT_1,
              ErrorCode.DEADLOCK_1,
              ErrorCode.CONCURRENT_UPDATE_1,
              ErrorCode.DATABASE_ALREADY_OPEN_1 ->
              Fault.Kind.BUSY;
          case ErrorCode.STATEMENT_WAS_CANCELED -> Fault.Kind.TIMEOUT;
          case ErrorCode.NOT_ENOUGH_RIGHTS_FOR_1, ErrorCode.ADMIN_RIGHTS_REQUIRED ->
              Fault.Kind.DENIED;
          case ErrorCode.DATABASE_IS_READ_ONLY -> Fault.Kind.READ_ONLY;
          case ErrorCode.CONNECTION_BROKEN_1, ErrorCode.DATABASE_IS_CLOSED -> Fault.Kind.CUT;
          default -> Fault.Kind.STATEMENT;
        };
    String message = message(String.valueOf(e.getMessage()));
    String words = words(message);
    return new Fault(kind, words, words.equals(message) ? Optional.empty() : Optional.of(message));
  }

  /** H2 repeats a statement that it does not understand, with a mark in it. */
  @Override
  public OptionalInt offset(Statement statement, SQLException e) {
    String message = message(String.valueOf(e.getMessage()));
    int begin = message.indexOf(REPEATED);
    int mark = message.indexOf("[*]");
    return begin >= 0 && mark > begin
        ? OptionalInt.of(Math.min(mark - begin - REPEATED.length(), statement.text().length()))
        : OptionalInt.empty();
  }

  /** The driver adds the statement, which may hold a secret, and its own code. */
  private static String message(String message) {
    int statement = message.indexOf("; SQL statement:");
    String words = statement < 0 ? message : message.substring(0, statement);
    return words.replaceFirst(" \\[\\d+-\\d+\\]$", "").strip();
  }

  /** Behind a key that is there already stands the row that has it. */
  private static String words(String message) {
    return message.replaceFirst("(?s) (VALUES )?\\( /\\* .*", "\"").strip();
  }
}
