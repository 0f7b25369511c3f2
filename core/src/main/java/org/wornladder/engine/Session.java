package org.wornladder.engine;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.Consumer;
import org.wornladder.LockWaitException;
import org.wornladder.change.Ddl;
import org.wornladder.project.Condition;
import org.wornladder.schema.Schema;
import org.wornladder.sql.Statement;

/**
 * One connection to one database. Owned by whoever opened it, for one thread; closing twice is
 * harmless, and closing undoes a transaction that is still open.
 */
public interface Session extends AutoCloseable {
  /** The column of the tool's own tables that takes the session's id. */
  String ID_COLUMN = "session";

  /** The column of the tool's own tables that takes how long a script's statements took. */
  String ELAPSED_COLUMN = "elapsed_ms";

  /** The column of the tool's own tables that counts their rows. */
  String NUMBER_COLUMN = "number";

  /** For queries; transactions and all that is written go through this interface. */
  Connection connection();

  /**
   * An engine as this database shows it: itself, but for one that is known by its driver's metadata
   * alone.
   */
  default Engine described(Engine engine) {
    return engine;
  }

  /** A table's name as statements write it: quoted, and with its schema where one is needed. */
  String quoted(String table);

  /** A column of the tool's own tables as statements write it. */
  default String ownColumn(String name) {
    return name;
  }

  /** Whether a text of the tool's own tables, of any length, is not the empty one. */
  default String isFilled(String column) {
    return column + " <> ''";
  }

  /** What ends a query that gives some rows at most. */
  default String atMost(long rows) {
    return " LIMIT " + rows;
  }

  /**
   * The tool's own tables.
   *
   * @param through the session that statements go through: this one, or one that stands before it
   */
  default OwnTables ownTables(Session through, Engine engine) {
    return new SqlOwnTables(through, engine);
  }

  /** Whether the database was there when the session was opened. */
  boolean isThere();

  /** The database as a person would name it, without secrets. */
  String address();

  /** The database's user; empty where there are none. */
  String user();

  /** What the database calls this session; empty where it has no name for it. */
  String id();

  void begin() throws SQLException;

  /** Begins a transaction whose queries all see the database as it is at one moment. */
  void beginConsistentRead() throws SQLException;

  /** Settings that must be made before a transaction in which some statements run. */
  default List<String> settingsBefore(List<Statement> statements) {
    return List.of();
  }

  /** Begins a transaction for some statements, behind {@link #settingsBefore}. */
  default void begin(List<Statement> statements) throws SQLException {
    begin();
  }

  void commit() throws SQLException;

  /** Whether rows that are written between begin and commit are written all or not at all. */
  default boolean commitsTogether() {
    return true;
  }

  void rollback() throws SQLException;

  /**
   * Runs a statement. Inside a transaction it may reach the database only with what follows, up to
   * the commit, and fail there; {@link #unfinished()} says then that it was this one.
   */
  void execute(Statement statement) throws SQLException;

  /**
   * The statements that a statement of a script is carried out by, as the structure is now: itself,
   * but for one that the engine lacks and that others make up for.
   */
  default List<Statement> carriedOutBy(Statement statement) throws SQLException {
    return List.of(statement);
  }

  /** Runs the statement that is held back, if one is. */
  void flush() throws SQLException;

  /** The way to run several steps in one message to the database; empty if the engine has none. */
  default Optional<Pipeline> pipeline() {
    return Optional.empty();
  }

  /**
   * The statement given to {@link #execute} that failed, or is not known to have ended; empty if
   * the last one did end.
   */
  Optional<Statement> unfinished();

  /**
   * Adds a row to one of the tool's own tables, in the open transaction. It may reach the database
   * only with the commit. Fails if the database's own id of this session is not {@link #id()} any
   * more, where the engine can say.
   *
   * @param values numbers and texts, none of them null
   */
  void insert(String table, List<String> columns, List<Object> values) throws SQLException;

  /** Runs an UPDATE of the tool's own, which may travel with what follows it, like an insertion. */
  void amend(String sql) throws SQLException;

  /**
   * Whether the database itself measures the time that an insertion records, so that it is known
   * only when it is read.
   */
  default boolean measuresElapsed() {
    return false;
  }

  /**
   * Runs all that waits, and restores the session, so that queries of the tool's own may follow.
   */
  void runWaiting() throws SQLException;

  /**
   * Runs a statement of the tool's own that changes rows or the session.
   *
   * @return how many rows were changed
   */
  long change(String sql) throws SQLException;

  /** How rows are brought into this database. */
  default Staging staging() {
    return stagingThrough(this);
  }

  /** The same, with its statements going through another session that stands before this one. */
  Staging stagingThrough(Session other);

  /** How documents are brought into this database; empty where it has rows. */
  default Optional<Documents> documents() {
    return Optional.empty();
  }

  /** Restores what a script may have changed about the session. */
  void reset() throws SQLException;

  /**
   * Takes the lock that lets one process at a time change this database.
   *
   * @param onWait receives once who holds it, if somebody does
   * @throws LockWaitException if it is not had in time
   */
  DatabaseLock lock(Duration wait, Consumer<String> onWait);

  /**
   * What speaks against trusting a table of the tool's own name, for people: it is no plain table,
   * another user's, or a trigger, rule or policy acts on it.
   *
   * @param owner who may own it beside the connection's own user
   * @return empty if nothing does, or there is no such table
   */
  Optional<String> suspicion(String table, Optional<String> owner) throws SQLException;

  /** The holder of the database lock, for people; empty if it is not held. */
  Optional<String> lockHolder() throws SQLException;

  /**
   * What is in the database, without the tables named.
   *
   * @param without the tool's own tables
   */
  Schema structure(List<String> without) throws SQLException;

  /** The same with {@link Schema#catalogFingerprint}, where the engine can have them. */
  default Schema structureWithFingerprint(List<String> without) throws SQLException {
    return structure(without);
  }

  /**
   * A fingerprint of all that the database answers when its structure is read, computed by the
   * database itself, which is sooner done than to say it. The same one as that of a structure read
   * before ({@link Schema#catalogFingerprint}): nothing has changed since.
   *
   * @param without as it was then
   * @return empty where the engine cannot
   */
  default Optional<String> catalogFingerprint(List<String> without) throws SQLException {
    return Optional.empty();
  }

  /**
   * Takes every object out of the managed schemas, and nothing that lies outside of them.
   *
   * @param last tables that go last, so that an interrupted call can be recognised by them
   */
  void empty(List<String> last) throws SQLException;

  /** What lies outside of the managed schemas and could not exist without what is in them. */
  default List<String> outsideDependents() throws SQLException {
    return List.of();
  }

  /** How structures of this database are written as SQL. */
  Ddl ddl();

  /** How it is found out what statements do; empty where the engine does not say. */
  default Optional<StatementMeter> meter() {
    return Optional.empty();
  }

  /**
   * How a statement that is prepared marks a parameter.
   *
   * @param number from 1 on
   */
  default String placeholder(int number) {
    return "?";
  }

  /**
   * Whether the database can run a query as it is, which is not run.
   *
   * @param sql with {@link #placeholder} for its parameters
   * @return the database's words if it cannot
   */
  Optional<String> refusal(String sql);

  /** The number of rows of each table of a structure that may be read, by name. */
  Map<String, Long> rowCounts(Schema schema) throws SQLException;

  boolean exists(Condition.Presence object) throws SQLException;

  /** Whether a query's first value is true or above zero; nothing can be written by it. */
  boolean holds(String query) throws SQLException;

  /**
   * The present state of an object, so that two examines it say whether it changed between them:
   * {@link StatementTarget#MISSING}, or words and a checksum of its definition. Empty if the engine
   * cannot say.
   */
  Optional<String> state(StatementTarget object) throws SQLException;

  /** Whether {@link #state} of what a statement is about is another one once the statement ran. */
  default boolean showsEffectOf(Statement statement) {
    return true;
  }

  /** Whether an object is known not to be there. */
  boolean isMissing(StatementTarget object) throws SQLException;

  /**
   * The statement that clears away what an interrupted one left of an object; empty if nothing is
   * left.
   */
  Optional<String> clearing(StatementTarget object) throws SQLException;

  /** What an exception means, in the database's own words. */
  Fault fault(SQLException e);

  /**
   * Where in a statement the database found what it refused, in characters from its beginning;
   * empty if it does not say.
   *
   * @param statement the last one that ran
   */
  OptionalInt offset(Statement statement, SQLException e);

  /**
   * How far the replica that is furthest behind is behind; zero without replicas.
   *
   * @throws org.wornladder.RefusedException if this user may not see it
   * @throws UnsupportedOperationException if the server does not show it
   */
  default Duration replicaLag() throws SQLException {
    throw new UnsupportedOperationException("the server does not show its replicas");
  }

  /**
   * The statements that the server's statistics have counted in this database, most often run ones
   * first, with marks in the place of values.
   *
   * @throws org.wornladder.RefusedException if the server counts none, or this user may not see it
   */
  CountedStatements countedStatements() throws SQLException;

  /**
   * Notes a temporary table of the tool's own.
   *
   * @param drop the statement that drops it, which is run if the connection outlives the session
   */
  void noteTemporary(String drop);

  @Override
  void close();
}
