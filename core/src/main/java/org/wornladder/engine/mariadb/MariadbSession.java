package org.wornladder.engine.mariadb;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Properties;
import java.util.Set;
import java.util.function.Consumer;
import org.mariadb.jdbc.Driver;
import org.wornladder.RefusedException;
import org.wornladder.UnreachableException;
import org.wornladder.change.Ddl;
import org.wornladder.engine.Access;
import org.wornladder.engine.ConnectionAttempts;
import org.wornladder.engine.ConnectionAttempts.Answer;
import org.wornladder.engine.CountedStatements;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.Fault;
import org.wornladder.engine.JdbcSession;
import org.wornladder.engine.LockPolling;
import org.wornladder.engine.ServerUrl;
import org.wornladder.engine.Session;
import org.wornladder.engine.SessionRestore;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StatementMeter;
import org.wornladder.engine.StatementTarget;
import org.wornladder.engine.Target;
import org.wornladder.project.Condition;
import org.wornladder.project.Environment;
import org.wornladder.schema.Schema;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/** A connection to one MariaDB database. */
final class MariadbSession extends JdbcSession {
  private static final Quoting QUOTING = MariadbEngine.QUOTING;

  /** Names of locks have at most 64 characters (documentation, "GET_LOCK"). */
  private static final int LONGEST_LOCK_NAME = 64;

  /** What a script may change about a session and what is restored, in the order of the query. */
  private static final List<String> KEPT =
      List.of(
          "sql_mode",
          "time_zone",
          "foreign_key_checks",
          "unique_checks",
          "autocommit",
          "character_set_client",
          "character_set_results",
          "collation_connection",
          "lock_wait_timeout",
          "innodb_lock_wait_timeout",
          "default_storage_engine",
          "sql_safe_updates");

  /**
   * The driver asks for IGNORE_SPACE, under which names of functions are reserved words, the
   * server's own client does not (documentation, "Function Name Parsing and Resolution").
   */
  private static final String SPACES_COUNT =
      "SET SESSION sql_mode = CASE WHEN find_in_set('IGNORE_SPACE', @@global.sql_mode) THEN"
          + " @@sql_mode ELSE trim(BOTH ',' FROM replace(concat(',', @@sql_mode, ','),"
          + " ',IGNORE_SPACE,', ',')) END";

  /**
   * The driver's words where the server's key would have to be taken on trust (MySQL manual,
   * "Caching SHA-2 Pluggable Authentication").
   */
  private static final String NO_KEY = "RSA public key is not available";

  /** No such table, trigger, routine, event; a object of another kind by that name. */
  private static final Set<Integer> NOT_THERE = Set.of(1146, 1360, 1305, 1539, 1347, 4091);

  private final Target target;
  private final ServerUrl url;
  private final String database;
  private final String user;
  private final long connectionId;
  private final MariadbServer server;
  private final List<String> settings = new ArrayList<>();
  private boolean settingsMayHaveChanged;

  private MariadbSession(Connection connection, Target target, ServerUrl url, Access access)
      throws SQLException {
    super(connection, QUOTING);
    this.target = target;
    this.url = url;
    server = MariadbServer.of(value("SELECT version()").orElse(""));
    for (String wish : wishes(target.environment(), server)) {
      control().execute(wish);
    }
    // What is restored is what stands now, wishes included.
    String variables = "@@" + String.join(", @@", KEPT);
    try (ResultSet row =
        control()
            .executeQuery(
                "SELECT connection_id(), user(), database(), current_role(), " + variables)) {
      row.next();
      connectionId = row.getLong(1);
      user = row.getString(2).replaceFirst("@.*", "");
      database = Optional.ofNullable(row.getString(3)).orElse("");
      settings.add("SET ROLE " + role(row.getString(4)));
      List<String> kept = new ArrayList<>();
      for (int i = 0; i < KEPT.size(); i++) {
        String given = row.getString(5 + i);
        boolean number = given.matches("\\d+");
        kept.add("SESSION " + KEPT.get(i) + " = " + (number ? given : QUOTING.text(given)));
      }
      settings.add("SET " + String.join(", ", kept));
    }
    timeLimit(target.environment(), server).ifPresent(settings::add);
    // The variable for it has other names in other versions.
    String transactions =
        "SET SESSION TRANSACTION READ " + (access == Access.READ ? "ONLY" : "WRITE");
    settings.add(transactions);
    control().execute(transactions);
    settings.add("USE " + QUOTING.name(database));
  }

  /** What an environment wants of its sessions. */
  private static List<String> wishes(Environment environment, MariadbServer server) {
    List<String> wishes = new ArrayList<>();
    wishes.add(SPACES_COUNT);
    environment.role().ifPresent(role -> wishes.add("SET ROLE " + QUOTING.name(role)));
    environment
        .settings()
        .patience()
        .ifPresent(
            limit -> {
              long seconds = Math.max(1, limit.toSeconds());
              wishes.add("SET SESSION lock_wait_timeout = " + seconds);
              wishes.add("SET SESSION innodb_lock_wait_timeout = " + seconds);
            });
    timeLimit(environment, server).ifPresent(wishes::add);
    return wishes;
  }

  /**
   * Not kept like the others: each server has its own. MySQL limits what only reads (MySQL manual,
   * "max_execution_time").
   */
  private static Optional<String> timeLimit(Environment environment, MariadbServer server) {
    return environment
        .settings()
        .statementTimeout()
        .map(
            limit ->
                server.isMysql()
                    ? "SET SESSION max_execution_time = " + limit.toMillis()
                    : "SET SESSION max_statement_time = " + limit.toMillis() / 1000.0);
  }

  /** A role as a statement names it: MariaDB says a bare name, MySQL a quoted one. */
  static String role(String current) {
    boolean none = current == null || current.equals("NONE");
    return none ? "NONE" : current.startsWith("`") ? current : QUOTING.name(current);
  }

  static MariadbSession open(Target target, Access access) {
    ServerUrl url = MariadbUrl.of(target.environment().url());
    Connection connection =
        ConnectionAttempts.patiently(
            target,
            url.shown(),
            access,
            () -> attempt(target, url),
            MariadbBorrowed::note,
            MariadbSession::answer);
    try {
      return opened(
          connection,
          () -> {
            MariadbSession session = new MariadbSession(connection, target, url, access);
            session.check(access);
            return session;
          });
    } catch (SQLException e) {
      throw ConnectionAttempts.failure(target, url.shown(), e, answer(e));
    }
  }

  private static Connection attempt(Target target, ServerUrl url) throws SQLException {
    Environment environment = target.environment();
    Properties properties = new Properties();
    environment.user().or(url::user).ifPresent(user -> properties.setProperty("user", user));
    environment
        .password()
        .or(url::password)
        .ifPresent(password -> properties.setProperty("password", password));
    properties.setProperty(
        "connectTimeout", Integer.toString(ConnectionAttempts.ANSWER_SECONDS * 1000));
    properties.setProperty("tcpKeepAlive", "true");
    Connection connection = new Driver().connect(url.jdbc(), properties);
    if (connection == null) {
      throw new SQLException("the url is not one of MariaDB's", "08001");
    }
    return connection;
  }

  /** What a failure to connect means (documentation, "MariaDB Error Codes"). */
  private static Answer answer(SQLException e) {
    if (String.valueOf(e.getMessage()).contains(NO_KEY)) {
      return Answer.UNENCRYPTED;
    }
    return switch (e.getErrorCode()) {
      case 1044, 1045, 1698 -> Answer.WRONG_CREDENTIALS;
      case 1049 -> Answer.NO_DATABASE;
      case 1040, 1203 -> Answer.NOT_YET;
      default ->
          MariadbFaults.state(e).startsWith("08") && ConnectionAttempts.isOfTheNetwork(e)
              ? Answer.NOT_YET
              : Answer.OTHER;
    };
  }

  private void check(Access access) throws SQLException {
    String where = "environment " + target.environment().name() + ", " + url.shown();
    if (database.isEmpty()) {
      throw new UnreachableException(
          "the url names no database", where, "write it behind the last slash", null);
    }
    if (server.isMysql() && !server.isAtLeast(8, 0, 16)) {
      throw new UnreachableException(
          "this is MySQL %d.%d.%d, which is too old"
              .formatted(server.major(), server.minor(), server.patch()),
          where,
          "use MySQL 8.0.16 or newer, or MariaDB 10.6 or newer",
          null);
    }
    if (access == Access.WRITE
        && value("SELECT @@global.read_only").filter("1"::equals).isPresent()) {
      throw new UnreachableException(
          "the server takes no changes: it is a replica, or set to read only",
          where,
          "name the primary server in the url",
          null);
    }
  }

  @Override
  public String address() {
    return url.shown();
  }

  @Override
  public String user() {
    return user;
  }

  /** MariaDB documentation, "Performance Schema events_statements_summary_by_digest Table". */
  @Override
  public CountedStatements countedStatements() throws SQLException {
    if (value("SELECT @@performance_schema").filter("1"::equals).isEmpty()) {
      throw RefusedException.of(
          "the server counts no statements: its performance schema is off",
          address(),
          "set performance_schema = ON for the server, and start it again");
    }
    List<String> texts =
        column(
            "SELECT digest_text FROM performance_schema.events_statements_summary_by_digest WHERE"
                + " schema_name = database() AND digest_text IS NOT NULL ORDER BY count_star DESC,"
                + " digest_text");
    // A row without a digest counts those for which there was no room left.
    boolean isFull =
        value(
                "SELECT count_star FROM performance_schema.events_statements_summary_by_digest"
                    + " WHERE digest IS NULL AND count_star > 0")
            .isPresent();
    return new CountedStatements(texts, !isFull);
  }

  @Override
  public String id() {
    return "connection " + connectionId;
  }

  @Override
  public String quoted(String table) {
    return QUOTING.name(database) + "." + QUOTING.name(table);
  }

  /** MariaDB manual, "START TRANSACTION". */
  @Override
  protected String consistentReadText() {
    return "START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY";
  }

  @Override
  protected String beginText() {
    return "START TRANSACTION";
  }

  @Override
  public void execute(Statement statement) throws SQLException {
    settingsMayHaveChanged = true;
    super.execute(statement);
  }

  /** Null, which the column refuses, if the session is another one by now. */
  @Override
  protected String place(String column) {
    return column.equals(ID_COLUMN)
        ? "CASE WHEN connection_id() = " + connectionId + " THEN ? END"
        : "?";
  }

  @Override
  public void reset() throws SQLException {
    if (settingsMayHaveChanged) {
      settingsMayHaveChanged = false;
      for (String setting : settings) {
        control().execute(setting);
      }
    }
  }

  @Override
  public DatabaseLock lock(Duration wait, Consumer<String> onWait) {
    String where = "environment " + target.environment().name() + ", " + url.shown();
    String lock = lockName();
    try {
      return LockPolling.take(() -> attempt(lock, where), () -> holder(lock), where, wait, onWait);
    } catch (SQLException e) {
      throw DatabaseErrors.translate(this, target.environment().name(), "taking the lock", e);
    }
  }

  /** As a text in a statement. */
  private String lockName() {
    String name = "ladder " + database;
    return QUOTING.text(
        name.length() > LONGEST_LOCK_NAME ? name.substring(0, LONGEST_LOCK_NAME) : name);
  }

  @Override
  public Optional<String> suspicion(String table, Optional<String> owner) throws SQLException {
    String where = " = " + QUOTING.text(database) + " AND ";
    String of = " = " + QUOTING.text(table);
    if (!hasRow(
        "SELECT 1 FROM information_schema.tables WHERE table_schema"
            + where
            + "table_type = 'BASE TABLE' AND table_name"
            + of)) {
      return Optional.of("it is no plain table");
    }
    return value(
            "SELECT min(trigger_name) FROM information_schema.triggers WHERE event_object_schema"
                + where
                + "event_object_table"
                + of)
        .map(trigger -> "the trigger " + trigger + " is on it");
  }

  @Override
  public Optional<String> lockHolder() throws SQLException {
    String lock = lockName();
    return isTrue("SELECT is_used_lock(" + lock + ")")
        ? Optional.of(holder(lock))
        : Optional.empty();
  }

  private Optional<DatabaseLock> attempt(String lock, String where) throws SQLException {
    try (ResultSet row =
        control().executeQuery("SELECT get_lock(" + lock + ", 0), connection_id()")) {
      row.next();
      if (row.getLong(2) != connectionId) {
        throw new UnreachableException(
            "something between here and the server deals its sessions out anew, so no lock can be"
                + " kept",
            where,
            "name the server itself in the url",
            null);
      }
      return row.getInt(1) == 1 ? Optional.of(() -> release(lock)) : Optional.empty();
    }
  }

  private void release(String lock) {
    try {
      control().execute("DO release_lock(" + lock + ")");
    } catch (SQLException e) {
      // The lock goes with the session, which is closed next.
      return;
    }
  }

  private String holder(String lock) throws SQLException {
    String query =
        "SELECT concat('connection ', p.id, ' of ', p.user, ' from ', p.host)"
            + " FROM information_schema.processlist p WHERE p.id = is_used_lock("
            + lock
            + ")";
    return value(query).orElse("a session that is just ending, or another user's");
  }

  @Override
  public Staging stagingThrough(Session other) {
    return new MariadbStaging(other, QUOTING, server);
  }

  @Override
  public void empty(List<String> last) throws SQLException {
    MariadbCleaner.empty(this, last);
  }

  @Override
  public Optional<StatementMeter> meter() {
    return Optional.of(new MariadbMeter(this, server));
  }

  @Override
  public Ddl ddl() {
    return new MariadbDdl(server);
  }

  @Override
  public Schema structure(List<String> without) throws SQLException {
    return new MariadbStructure(control(), database, without, server).read();
  }

  @Override
  public boolean exists(Condition.Presence object) throws SQLException {
    String name = object.table();
    return switch (object.kind()) {
      case TABLE -> ofTable("table_name = ? AND table_type <> 'VIEW'", "tables", name);
      case VIEW -> ofTable("table_name = ? AND table_type = 'VIEW'", "tables", name);
      case INDEX -> ofTable("index_name = ?", "statistics", name);
      case COLUMN ->
          ofTable("table_name = ? AND column_name = ?", "columns", name, object.column());
    };
  }

  private boolean ofTable(String condition, String view, String... values) throws SQLException {
    String schema = "table_schema = " + QUOTING.text(database) + " AND ";
    return hasRow(
        "SELECT 1 FROM information_schema." + view + " WHERE " + schema + condition, values);
  }

  @Override
  public boolean holds(String query) throws SQLException {
    if (inTransaction()) {
      return isTrue(query);
    }
    control().execute("START TRANSACTION READ ONLY");
    try (SessionRestore after = () -> control().execute("ROLLBACK")) {
      return isTrue(query);
    }
  }

  /** What is part of a table has the state of its table, which does not say whether it is there. */
  @Override
  public boolean isMissing(StatementTarget object) throws SQLException {
    boolean index = object.kind() == StatementTarget.Kind.INDEX;
    if ((!index && object.kind() != StatementTarget.Kind.COLUMN) || object.table().isEmpty()) {
      return super.isMissing(object);
    }
    String schema = object.table().schema();
    return !hasRow(
        "SELECT 1 FROM information_schema."
            + (index ? "statistics" : "columns")
            + " WHERE table_schema = ? AND table_name = ? AND "
            + (index ? "index_name" : "column_name")
            + " = ?",
        schema.isEmpty() ? database : schema,
        object.table().plain(),
        object.name().plain());
  }

  /** The server's own statement for an object; an index is part of its table's. */
  @Override
  public Optional<String> state(StatementTarget object) throws SQLException {
    boolean ofTable =
        object.kind() == StatementTarget.Kind.INDEX || object.kind() == StatementTarget.Kind.COLUMN;
    boolean unknown = server.isMysql() && object.kind() == StatementTarget.Kind.SEQUENCE;
    if (unknown || ofTable && object.table().isEmpty()) {
      return Optional.empty();
    }
    String kind = ofTable ? StatementTarget.Kind.TABLE.name() : object.kind().name();
    String name = named(ofTable ? object.table() : object.name());
    try (ResultSet row = control().executeQuery("SHOW CREATE " + kind + " " + name)) {
      StringBuilder definition = new StringBuilder();
      while (row.next()) {
        for (int i = 1; i <= row.getMetaData().getColumnCount(); i++) {
          definition.append(row.getString(i)).append('\n');
        }
      }
      // The next number is not part of the definition.
      return Optional.of(there(definition.toString().replaceAll(" AUTO_INCREMENT=\\d+", "")));
    } catch (SQLException e) {
      if (NOT_THERE.contains(e.getErrorCode())) {
        return Optional.of(StatementTarget.MISSING);
      }
      throw e;
    }
  }

  private String named(StatementTarget.Name name) {
    return name.schema().isEmpty()
        ? quoted(name.plain())
        : QUOTING.name(name.schema()) + "." + QUOTING.name(name.plain());
  }

  @Override
  public Fault fault(SQLException e) {
    return MariadbFaults.of(e);
  }

  @Override
  public OptionalInt offset(Statement statement, SQLException e) {
    return MariadbFaults.offset(statement.text(), e);
  }
}
