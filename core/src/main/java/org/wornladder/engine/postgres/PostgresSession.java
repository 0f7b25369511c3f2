package org.wornladder.engine.postgres;

import java.io.IOException;
import java.io.StringReader;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.postgresql.PGConnection;
import org.wornladder.UnreachableException;
import org.wornladder.change.Ddl;
import org.wornladder.engine.Access;
import org.wornladder.engine.CountedStatements;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.Fault;
import org.wornladder.engine.JdbcSession;
import org.wornladder.engine.Pipeline;
import org.wornladder.engine.Session;
import org.wornladder.engine.SessionRestore;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StatementMeter;
import org.wornladder.engine.StatementTarget;
import org.wornladder.engine.Target;
import org.wornladder.project.Condition;
import org.wornladder.project.EnvironmentSettings;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/**
 * A connection to one PostgreSQL database. Transactions are begun and ended as text, so that their
 * marks travel with the statements beside them, and the first statement of a transaction waits for
 * what follows it: a rung of one statement takes one message, entry and commit included.
 */
final class PostgresSession extends JdbcSession {
  private static final Quoting QUOTING = PostgresEngine.QUOTING;

  private static final String BEGIN = "BEGIN; ";
  private static final String CONSISTENT_READ = "BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY";

  private static final String INDEX_STATE =
      "SELECT indisvalid FROM pg_catalog.pg_index WHERE indexrelid = pg_catalog.to_regclass(%s)::pg_catalog.oid";

  private final Access access;
  private final Target target;
  private final String address;
  private final String user;
  private final String id;
  private final long backend;
  private final List<String> schemas;
  private final String settings;
  private final boolean readOnly;

  /** What goes to the server in front of the next statement. */
  private final StringBuilder ahead = new StringBuilder();

  /**
   * How many characters stood in front of the last statement in the message that it was part of.
   */
  private int before;

  /** Whether the beginning of the open transaction is in what goes ahead. */
  private boolean beginWaits;

  /** Whether all is held back for one message. */
  private boolean gathers;

  /** Whether a script's statement is in what goes ahead. */
  private boolean holds;

  /** Rows that go to the server with the commit. */
  private final PostgresInsertBuffer rows;

  private final PostgresTimingMarks marks = new PostgresTimingMarks();

  /** Whether a message failed whose transaction is still open on the server. */
  private boolean messageFailed;

  private boolean settingsMayHaveChanged;

  /** Whether they were restored in the transaction that is open: undone, they are not. */
  private boolean putBackInside;

  private PostgresSession(Connection connection, Target target, String address, Access access)
      throws SQLException {
    super(connection, QUOTING);
    this.access = access;
    this.target = target;
    this.address = address;
    EnvironmentSettings environment = target.environment().settings();
    settings = PostgresSettings.of(target.environment(), access);
    control().execute(settings + "; " + PostgresSettings.FACTS);
    try (ResultSet facts = PostgresCatalogQueries.nextRows(control())) {
      facts.next();
      backend = facts.getLong(1);
      rows = new PostgresInsertBuffer(backend);
      id = "backend " + backend + " since " + facts.getString(2);
      user = facts.getString(3);
      String schema = facts.getString(4);
      readOnly = facts.getBoolean(5);
      schemas =
          environment.schemas().isEmpty()
              ? List.of(schema == null ? "public" : schema)
              : environment.schemas();
    }
  }

  static PostgresSession open(Target target, Access access) {
    PostgresConnector connector = new PostgresConnector(target);
    Connection connection = connector.connect(access);
    try {
      return opened(
          connection,
          () -> {
            PostgresSession session =
                new PostgresSession(connection, target, connector.shown(), access);
            if (access == Access.WRITE && session.readOnly) {
              throw new UnreachableException(
                  "the server takes no changes: it is a replica, or set to read only",
                  connector.where(),
                  "name the primary server in the url",
                  null);
            }
            return session;
          });
    } catch (SQLException e) {
      throw connector.failure(e);
    }
  }

  @Override
  public String address() {
    return address;
  }

  @Override
  public String user() {
    return user;
  }

  @Override
  public CountedStatements countedStatements() throws SQLException {
    List<String> schema = column(PostgresStatistics.SCHEMA);
    if (schema.isEmpty()) {
      throw PostgresStatistics.missing(address);
    }
    List<String> texts = column(PostgresStatistics.statements(schema.get(0)));
    long held = Long.parseLong(value(PostgresStatistics.held(schema.get(0))).orElse("0"));
    long room = Long.parseLong(value(PostgresStatistics.ROOM).orElse("0"));
    return new CountedStatements(texts, PostgresStatistics.isComplete(held, room));
  }

  @Override
  public Duration replicaLag() throws SQLException {
    return PostgresReplicas.lag(control(), user);
  }

  @Override
  public String id() {
    return id;
  }

  /** The schemas that are managed; names in the first one stand alone. */
  List<String> schemas() {
    return schemas;
  }

  @Override
  public String quoted(String table) {
    for (String schema : schemas.subList(1, schemas.size())) {
      if (table.startsWith(schema + ".")) {
        return QUOTING.name(schema) + "." + QUOTING.name(table.substring(schema.length() + 1));
      }
    }
    return QUOTING.name(schemas.get(0)) + "." + QUOTING.name(table);
  }

  @Override
  public void beginConsistentRead() throws SQLException {
    send(CONSISTENT_READ);
    began();
  }

  @Override
  public void begin() throws SQLException {
    ahead.append(BEGIN);
    beginWaits = true;
    began();
  }

  @Override
  public void commit() throws SQLException {
    if (gathers) {
      ahead.append(rows.take()).append("COMMIT; ");
      holds = false;
      beginWaits = false;
    } else {
      send(rows.take() + "COMMIT");
      putBackInside = false;
    }
    ended();
  }

  @Override
  public long change(String sql) throws SQLException {
    String before = takeAhead() + rows.take();
    if (!before.isEmpty()) {
      control().execute(before);
    }
    control().execute(sql);
    return Math.max(0, control().getLargeUpdateCount());
  }

  @Override
  public boolean measuresElapsed() {
    return true;
  }

  @Override
  public void runWaiting() throws SQLException {
    reset();
    send(rows.take());
  }

  @Override
  public void rollback() throws SQLException {
    boolean sent = messageFailed || !beginWaits;
    takeAhead();
    gathers = false;
    messageFailed = false;
    settingsMayHaveChanged |= putBackInside;
    putBackInside = false;
    rows.forget();
    marks.forget();
    rows.drop();
    ended();
    if (sent || settingsMayHaveChanged) {
      control().execute("ROLLBACK");
    }
  }

  @Override
  public void execute(Statement statement) throws SQLException {
    if (gathers) {
      hold(statement);
      return;
    }
    settingsMayHaveChanged |= PostgresSettings.mayChange(statement);
    flush();
    if (!statement.data().isEmpty()) {
      send(rows.take());
      runs(statement);
      copy(statement);
      ran();
      return;
    }
    runs(statement);
    if (beginWaits && !rows.areWaiting()) {
      hold(statement);
    } else {
      String earlier = rows.take();
      before = characters(ahead) + characters(earlier);
      send(earlier + statement.text());
    }
  }

  private static int characters(CharSequence text) {
    return Character.codePointCount(text, 0, text.length());
  }

  private void hold(Statement statement) {
    // A line of its own for what follows: the statement may end in a comment.
    ahead.append(rows.take());
    before = characters(ahead);
    ahead.append(statement.text()).append("\n; ");
    holds = true;
  }

  @Override
  public void flush() throws SQLException {
    if (holds) {
      send("");
    }
  }

  @Override
  public Optional<Pipeline> pipeline() {
    return Optional.of(new MessagePipeline());
  }

  /** Collects in {@link #ahead} what the session would send. */
  private final class MessagePipeline implements Pipeline {
    @Override
    public boolean accepts(Statement statement) {
      return statement.data().isEmpty() && !PostgresSettings.mayChange(statement);
    }

    @Override
    public void start() {
      gathers = true;
    }

    @Override
    public void mark() {
      ahead.append(rows.take()).append(marks.next()).append("; ");
    }

    @Override
    public Timing send() throws SQLException {
      gathers = false;
      String message = takeAhead() + rows.take();
      try {
        Timing timing = PostgresTimingMarks.run(control(), message);
        // In an all-or-nothing run the transaction goes on after its messages.
        putBackInside &= inTransaction();
        return timing;
      } catch (SQLException e) {
        messageFailed = true;
        throw e;
      }
    }
  }

  private void copy(Statement statement) throws SQLException {
    PGConnection driver = connection().unwrap(PGConnection.class);
    try {
      driver.getCopyAPI().copyIn(statement.text(), new StringReader(rowsOf(statement.data())));
    } catch (IOException e) {
      throw new SQLException("the rows could not be sent: " + e.getMessage(), "08006", e);
    }
  }

  /** The rows without the line that ends them. */
  private static String rowsOf(String data) {
    return data.lines()
        .takeWhile(line -> !line.equals("\\."))
        .map(line -> line + "\n")
        .collect(Collectors.joining());
  }

  /** What goes ahead; nothing does any more. */
  private String takeAhead() {
    String taken = ahead.toString();
    ahead.setLength(0);
    beginWaits = false;
    holds = false;
    rows.messageBegins();
    return taken;
  }

  private void send(String text) throws SQLException {
    String message = takeAhead() + text;
    if (!message.isEmpty()) {
      control().execute(message);
      ran();
    }
  }

  @Override
  public void insert(String table, List<String> columns, List<Object> values) {
    if (gathers) {
      rows.addInTurn(quoted(table), columns, values);
    } else {
      if (settingsMayHaveChanged && inTransaction()) {
        ahead.append(PostgresSettings.writer(target.environment()));
      }
      rows.add(quoted(table), columns, values, holds);
    }
  }

  @Override
  public void amend(String sql) {
    rows.amend(sql);
  }

  @Override
  public void reset() {
    if (settingsMayHaveChanged) {
      ahead.append(PostgresSettings.UNDO).append(settings).append("; ");
      rows.forget();
      marks.forget();
      settingsMayHaveChanged = false;
      putBackInside = true;
    }
  }

  @Override
  public DatabaseLock lock(Duration wait, Consumer<String> onWait) {
    return PostgresLock.take(this, target, wait, onWait);
  }

  @Override
  public Optional<String> suspicion(String table, Optional<String> owner) throws SQLException {
    return new PostgresSuspicion(control(), access, owner).of(schemas.get(0), table);
  }

  @Override
  public Optional<String> lockHolder() throws SQLException {
    return PostgresLock.current(this);
  }

  @Override
  public Staging stagingThrough(Session other) {
    return new PostgresStaging(other, this, QUOTING);
  }

  @Override
  public void empty(List<String> last) throws SQLException {
    PostgresCleaner.empty(this, last);
  }

  @Override
  public List<String> outsideDependents() throws SQLException {
    return PostgresCleaner.outside(this);
  }

  @Override
  public String placeholder(int number) {
    return "$" + number;
  }

  /** The driver sends a statement only when it runs; the server is asked by its own means. */
  @Override
  public Optional<String> refusal(String sql) {
    try {
      control().execute("PREPARE ladder_caller AS " + sql);
      control().execute("DEALLOCATE ladder_caller");
      return Optional.empty();
    } catch (SQLException e) {
      return Optional.of(fault(e).message());
    }
  }

  @Override
  public Optional<StatementMeter> meter() {
    return Optional.of(new PostgresMeter(this));
  }

  @Override
  public Ddl ddl() {
    return new PostgresDdl(schemas);
  }

  @Override
  public Schema structure(List<String> without) throws SQLException {
    return asked(without, PostgresStructure::read);
  }

  @Override
  public Schema structureWithFingerprint(List<String> without) throws SQLException {
    return asked(without, PostgresStructure::readWithFingerprint);
  }

  @Override
  public Optional<String> catalogFingerprint(List<String> without) throws SQLException {
    try {
      return asked(without, PostgresStructure::catalogFingerprint);
    } catch (SQLException e) {
      // It takes longer than any single query of the structure, and functions of its own: whoever
      // reads instead gets the real failure.
      return Optional.empty();
    }
  }

  /** What is asked of the catalogue. */
  interface CatalogWork<T> {
    T run() throws SQLException;
  }

  /**
   * Asks the catalogue in a transaction that reads alone, or a part of the open one, while the
   * search path is the server's own schema; then everything is as it was.
   */
  <T> T inCatalog(CatalogWork<T> work) throws SQLException {
    boolean inside = inTransaction();
    send(rows.take());
    control()
        .execute(
            (inside ? "SAVEPOINT ladder_catalog; " : CONSISTENT_READ + "; ")
                + PostgresCatalogQueries.CATALOG_PATH
                // Compiling a query of the catalogue takes far longer than running it.
                + "SET LOCAL jit = off; SET LOCAL cursor_tuple_fraction = 1");
    String undo = inside ? "ROLLBACK TO SAVEPOINT ladder_catalog" : "ROLLBACK";
    try (SessionRestore after = () -> control().execute(undo)) {
      return work.run();
    }
  }

  /** What is read of a structure. */
  private interface Look<T> {
    T at(PostgresStructure structure) throws SQLException;
  }

  private <T> T asked(List<String> without, Look<T> look) throws SQLException {
    return inCatalog(
        () ->
            look.at(
                new PostgresStructure(
                    new PostgresCatalogQueries(connection(), schemas),
                    PostgresScope.of(control(), schemas, without))));
  }

  @Override
  public Map<String, Long> rowCounts(Schema schema) throws SQLException {
    // To count hundreds of tables takes longer than to read their structure.
    List<String> found = inCatalog(() -> column(PostgresExistence.tablesWithoutBlocks(schemas)));
    Set<String> empty = Set.copyOf(found);
    Map<String, Long> counted = super.rowCounts(schema.withoutTables(empty::contains));
    Map<String, Long> counts = new LinkedHashMap<>();
    for (Table table : schema.tables()) {
      Optional.ofNullable(
              empty.contains(table.name()) ? Long.valueOf(0) : counted.get(table.name()))
          .ifPresent(count -> counts.put(table.name(), count));
    }
    return counts;
  }

  @Override
  public boolean exists(Condition.Presence object) throws SQLException {
    send(rows.take());
    return PostgresExistence.of(control(), schemas, object);
  }

  @Override
  public boolean holds(String query) throws SQLException {
    send(rows.take());
    boolean own = !inTransaction();
    control()
        .execute(
            own
                ? "BEGIN READ ONLY"
                : "SAVEPOINT ladder_condition; SET LOCAL transaction_read_only = on");
    String undo = own ? "ROLLBACK" : "ROLLBACK TO SAVEPOINT ladder_condition";
    try (SessionRestore after = () -> control().execute(undo)) {
      return isTrue(query);
    }
  }

  /**
   * Only what refuses a transaction can be in doubt: indexes that are built beside others' work.
   */
  @Override
  public Optional<String> state(StatementTarget object) throws SQLException {
    if (object.kind() != StatementTarget.Kind.INDEX) {
      return super.state(object);
    }
    try (ResultSet row =
        control().executeQuery(INDEX_STATE.formatted(QUOTING.text(quotedIndex(object))))) {
      if (!row.next()) {
        return Optional.of(StatementTarget.MISSING);
      }
      return Optional.of(row.getBoolean(1) ? "there, valid" : "there, not valid");
    }
  }

  @Override
  public Optional<String> clearing(StatementTarget object) throws SQLException {
    boolean half =
        object.change() == StatementTarget.Change.MAKES
            && state(object).filter("there, not valid"::equals).isPresent();
    return half ? Optional.of("DROP INDEX CONCURRENTLY " + quotedIndex(object)) : Optional.empty();
  }

  /** An index is in the schema of its table. */
  private String quotedIndex(StatementTarget object) {
    StatementTarget.Name from = object.name().schema().isEmpty() ? object.table() : object.name();
    String schema = from.schema().isEmpty() ? schemas.get(0) : from.schema();
    return QUOTING.name(schema) + "." + QUOTING.name(object.name().plain());
  }

  @Override
  public Fault fault(SQLException e) {
    return PostgresFaults.of(e);
  }

  @Override
  public OptionalInt offset(Statement statement, SQLException e) {
    return PostgresFaults.offset(e, statement, before);
  }

  java.sql.Statement statement() {
    return control();
  }

  long backend() {
    return backend;
  }
}
