package org.wornladder.engine.jdbc;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.SQLInvalidAuthorizationSpecException;
import java.sql.SQLNonTransientConnectionException;
import java.sql.SQLSyntaxErrorException;
import java.sql.SQLTimeoutException;
import java.sql.SQLTransactionRollbackException;
import java.sql.SQLTransientConnectionException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Consumer;
import org.wornladder.change.Ddl;
import org.wornladder.engine.Access;
import org.wornladder.engine.ConnectionAttempts;
import org.wornladder.engine.ConnectionAttempts.Answer;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Fault;
import org.wornladder.engine.JdbcSession;
import org.wornladder.engine.LeaseLock;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StatementTarget;
import org.wornladder.engine.StatementWords;
import org.wornladder.engine.Target;
import org.wornladder.project.Condition;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Statement;

/** A connection to a database that its JDBC driver alone describes. */
final class DriverSession extends JdbcSession {
  private static final String RELATED_TO_CONNECTION = "08";

  private static final Set<String> SHOWN_ALTERATIONS = Set.of("ADD", "DROP", "ALTER", "RENAME");

  private static final String RIGHTS = "4250";
  private static final String ROLLED_BACK = "40";
  private static final String CREDENTIALS = "28";

  private final Target target;
  private final String shown;
  private final DriverTraits traits;
  private final DriverCatalog catalog;
  private final Access access;
  private Optional<LeaseLock> lease = Optional.empty();

  private DriverSession(
      Connection connection, Target target, String shown, DriverTraits traits, Access access)
      throws SQLException {
    super(connection, traits.quoting());
    this.target = target;
    this.shown = shown;
    this.access = access;
    catalog = DriverCatalog.of(connection);
    this.traits = tried(traits);
  }

  static DriverSession open(Target target, Access access) {
    String shown = target.environment().secrets().mask(target.environment().url());
    Connection connection =
        ConnectionAttempts.patiently(
            target,
            shown,
            access,
            () -> DriverJars.connect(target),
            lent -> () -> {},
            DriverSession::answer);
    try {
      return opened(
          connection,
          () -> new DriverSession(connection, target, shown, traits(connection, target), access));
    } catch (SQLException e) {
      throw ConnectionAttempts.failure(target, shown, e, answer(e));
    }
  }

  private static DriverTraits traits(Connection connection, Target target) throws SQLException {
    return DriverTraits.of(connection, target.environment().settings().tableOptions().orElse(""));
  }

  private static Answer answer(SQLException e) {
    String state = String.valueOf(e.getSQLState());
    if (state.startsWith(CREDENTIALS) || e instanceof SQLInvalidAuthorizationSpecException) {
      return Answer.WRONG_CREDENTIALS;
    }
    return ConnectionAttempts.isOfTheNetwork(e) || e instanceof SQLTransientConnectionException
        ? Answer.NOT_YET
        : Answer.OTHER;
  }

  /** What the driver claims of transactions counts until it was tried. */
  private DriverTraits tried(DriverTraits claimed) throws SQLException {
    LeaseTable table = new LeaseTable(connection(), catalog, claimed);
    Optional<Transactions> recorded = table.transactions();
    if (recorded.isEmpty() && access == Access.WRITE) {
      recorded = Optional.of(table.make());
    }
    return recorded.map(claimed::with).orElse(claimed);
  }

  /** What is known of the engine. */
  DriverTraits traits() {
    return traits;
  }

  @Override
  public Engine described(Engine engine) {
    return new JdbcEngine(engine.name(), traits);
  }

  DriverCatalog catalog() {
    return catalog;
  }

  boolean mayWrite() {
    return access == Access.WRITE;
  }

  @Override
  public String ownColumn(String name) {
    return quoting().name(name);
  }

  /** A large object cannot be compared; its length can be asked for (JDBC 4.3, appendix C). */
  @Override
  public String isFilled(String column) {
    return "{fn LENGTH(" + column + ")} > 0";
  }

  @Override
  public String atMost(long rows) {
    return " FETCH FIRST " + rows + " ROWS ONLY";
  }

  @Override
  public String address() {
    return shown;
  }

  @Override
  public String user() {
    try {
      return Optional.ofNullable(connection().getMetaData().getUserName()).orElse("");
    } catch (SQLException e) {
      // A driver that cannot say it has no users.
      return "";
    }
  }

  @Override
  public String id() {
    return "process " + ProcessHandle.current().pid();
  }

  @Override
  public void begin() throws SQLException {
    if (traits.transactions()) {
      connection().setAutoCommit(false);
    }
    began();
  }

  @Override
  public void beginConsistentRead() throws SQLException {
    begin();
  }

  @Override
  public void commit() throws SQLException {
    if (traits.transactions()) {
      connection().commit();
      connection().setAutoCommit(true);
    }
    ended();
  }

  @Override
  public boolean commitsTogether() {
    return traits.transactions();
  }

  @Override
  public void rollback() throws SQLException {
    ended();
    if (traits.transactions() && !connection().getAutoCommit()) {
      connection().rollback();
      connection().setAutoCommit(true);
    }
  }

  /** Older drivers have no {@code executeLargeUpdate}. */
  @Override
  public long change(String sql) throws SQLException {
    return control().executeUpdate(sql);
  }

  /** The row is written in one transaction with a look at whose the lock is. */
  @Override
  public void insert(String table, List<String> columns, List<Object> values) throws SQLException {
    if (lease.isPresent()) {
      lease.get().fence(new LeaseTable(connection(), catalog, traits));
    }
    super.insert(table, columns, values);
  }

  /** What the driver lets one restore: the schema. */
  @Override
  public void reset() throws SQLException {
    catalog.restore(connection());
  }

  @Override
  public DatabaseLock lock(Duration wait, Consumer<String> onWait) {
    String where = "environment " + target.environment().name() + ", " + shown;
    try {
      LeaseLock taken =
          LeaseLock.take(
              new LeaseTable(DriverJars.connectAnew(target), catalog, traits), where, wait, onWait);
      lease = Optional.of(taken);
      return () -> {
        lease = Optional.empty();
        undo();
        taken.close();
      };
    } catch (SQLException e) {
      throw DatabaseErrors.translate(this, target.environment().name(), "taking the lock", e);
    }
  }

  /** A transaction that a failure left open holds the lock's row, which is to be released. */
  private void undo() {
    try {
      if (inTransaction()) {
        rollback();
      }
    } catch (SQLException e) {
      // Closing the connection undoes it.
      return;
    }
  }

  @Override
  public Optional<String> lockHolder() throws SQLException {
    LeaseTable table = new LeaseTable(connection(), catalog, traits);
    return table.exists() ? table.holder() : Optional.empty();
  }

  @Override
  public Optional<String> suspicion(String table, Optional<String> owner) throws SQLException {
    return catalog.isPlainTable(table) ? Optional.empty() : Optional.of("it is no plain table");
  }

  @Override
  public Staging stagingThrough(Session other) {
    return new DriverStaging(other, this);
  }

  @Override
  public void empty(List<String> last) throws SQLException {
    new DriverCleaner(this).empty(last);
  }

  @Override
  public Ddl ddl() {
    return new DriverDdl(
        Dialects.standard(JdbcEngine.forUrl(target.environment().url()).orElseThrow().name()),
        traits);
  }

  @Override
  public Schema structure(List<String> without) throws SQLException {
    List<String> own = new ArrayList<>(without);
    own.add(LeaseTable.NAME);
    return new DriverStructure(catalog, traits, own).read();
  }

  @Override
  public boolean exists(Condition.Presence object) throws SQLException {
    return switch (object.kind()) {
      case TABLE -> catalog.table(object.table()).isPresent();
      case VIEW -> catalog.view(object.table()).isPresent();
      case INDEX -> catalog.hasIndex(object.table());
      case COLUMN -> catalog.hasColumn(object.table(), object.column());
    };
  }

  /** A table is as its driver describes it. */
  @Override
  public Optional<String> state(StatementTarget object) throws SQLException {
    if (object.kind() != StatementTarget.Kind.TABLE) {
      return super.state(object);
    }
    Optional<String> name = catalog.table(object.name().text());
    if (name.isEmpty()) {
      return Optional.of(StatementTarget.MISSING);
    }
    Table table = new DriverStructure(catalog, traits, List.of()).read(name.get());
    Snapshot alone = new Schema(List.of(table), List.of()).snapshot();
    return Optional.of(there(alone.meaningFingerprint()));
  }

  /** Checks are not part of what a driver describes, and neither are an engine's own clauses. */
  @Override
  public boolean showsEffectOf(Statement statement) {
    List<String> words = StatementWords.first(statement, Integer.MAX_VALUE);
    boolean altersTable = words.size() > 3 && words.subList(0, 2).equals(List.of("ALTER", "TABLE"));
    return !altersTable
        || !words.contains("CHECK")
            && words.subList(3, words.size()).stream().anyMatch(SHOWN_ALTERATIONS::contains);
  }

  @Override
  public boolean holds(String query) throws SQLException {
    return isTrue(query);
  }

  @Override
  protected boolean dropsTemporary() {
    return true;
  }

  /** By the classes of SQLSTATE (ISO/IEC 9075-2, 24.1), and of the exceptions of JDBC. */
  @Override
  public Fault fault(SQLException e) {
    String state = String.valueOf(e.getSQLState());
    Fault.Kind kind = Fault.Kind.STATEMENT;
    if (LeaseLock.isTakenOver(e)) {
      kind = Fault.Kind.TAKEN_OVER;
    } else if (state.startsWith(RELATED_TO_CONNECTION)
        || e instanceof SQLNonTransientConnectionException
        || e instanceof SQLTransientConnectionException) {
      kind = Fault.Kind.CUT;
    } else if (state.startsWith(ROLLED_BACK) || e instanceof SQLTransactionRollbackException) {
      kind = Fault.Kind.BUSY;
    } else if (e instanceof SQLTimeoutException) {
      kind = Fault.Kind.TIMEOUT;
    } else if (state.startsWith(RIGHTS) && !isAmbiguous(e, state)
        || state.startsWith(CREDENTIALS)
        || e instanceof SQLInvalidAuthorizationSpecException) {
      kind = Fault.Kind.DENIED;
    } else if (state.equals("25006")) {
      kind = Fault.Kind.READ_ONLY;
    } else if (state.equals("53100")) {
      kind = Fault.Kind.FULL;
    }
    return new Fault(kind, DatabaseErrors.message(e));
  }

  /** HSQLDB says the same of what may not be read and of what is not there. */
  private static boolean isAmbiguous(SQLException e, String state) {
    return state.equals("42501") && e instanceof SQLSyntaxErrorException;
  }

  @Override
  public OptionalInt offset(Statement statement, SQLException e) {
    return OptionalInt.empty();
  }
}
