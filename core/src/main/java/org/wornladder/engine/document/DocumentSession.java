package org.wornladder.engine.document;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.Consumer;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonString;
import org.bson.json.JsonParseException;
import org.wornladder.RefusedException;
import org.wornladder.change.Ddl;
import org.wornladder.engine.Access;
import org.wornladder.engine.ConnectionAttempts;
import org.wornladder.engine.CountedStatements;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.Documents;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Fault;
import org.wornladder.engine.LeaseLock;
import org.wornladder.engine.OwnTables;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StatementTarget;
import org.wornladder.engine.Target;
import org.wornladder.project.Condition;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.sql.Fingerprint;
import org.wornladder.sql.Statement;

/**
 * A connection to a document database. Commands that write documents are part of a transaction
 * where the deployment has them; each other one takes effect by itself, and nothing undoes it.
 */
final class DocumentSession implements Session {
  private final DocumentConnection connection;
  private final Target target;
  private final String shown;
  private final DelayedWrites delayed;

  /** Whether {@link #begin} was called, and neither commit nor rollback since. */
  private boolean begun;

  private Optional<LeaseLock> lease = Optional.empty();
  private Optional<Statement> unfinished = Optional.empty();

  private DocumentSession(DocumentConnection connection, Target target, String shown) {
    this.connection = connection;
    delayed = new DelayedWrites(connection);
    this.target = target;
    this.shown = shown;
  }

  static DocumentSession open(Target target, Access access) {
    String shown = target.environment().secrets().mask(target.environment().url());
    DocumentConnection connection =
        ConnectionAttempts.patiently(
            target,
            shown,
            () -> DocumentConnection.open(target.environment()),
            DocumentErrors::answer);
    return new DocumentSession(connection, target, shown);
  }

  private RefusedException noSql() {
    return RefusedException.of(
        "this needs SQL, which a document database does not have",
        "environment " + target.environment().name() + ", " + shown,
        "");
  }

  @Override
  public Connection connection() {
    throw noSql();
  }

  @Override
  public Engine described(Engine engine) {
    return new DocumentEngine(connection.hasTransactions());
  }

  @Override
  public OwnTables ownTables(Session through, Engine engine) {
    return new DocumentOwnTables(connection, delayed, this);
  }

  @Override
  public String quoted(String table) {
    return table;
  }

  @Override
  public boolean isThere() {
    return true;
  }

  @Override
  public String address() {
    return shown;
  }

  @Override
  public String user() {
    BsonDocument status = new BsonDocument("connectionStatus", new BsonInt32(1));
    try {
      BsonArray users =
          connection
              .run(status)
              .getDocument("authInfo", new BsonDocument())
              .getArray("authenticatedUsers", new BsonArray());
      return users.isEmpty()
          ? ""
          : users.get(0).asDocument().getString("user", new BsonString("")).getValue();
    } catch (SQLException e) {
      // A server that cannot say it has no users.
      return "";
    }
  }

  @Override
  public String id() {
    return "process " + ProcessHandle.current().pid();
  }

  /** A transaction of the server begins with the first command that can be part of it. */
  @Override
  public void begin() {
    delayed.begin();
    begun = true;
  }

  @Override
  public void beginConsistentRead() {
    begin();
  }

  @Override
  public void commit() throws SQLException {
    if (connection.isInTransaction()) {
      flush();
      connection.commitTransaction();
    }
    delayed.begin();
    begun = false;
  }

  @Override
  public boolean commitsTogether() {
    return false;
  }

  /** A command outside of a transaction cannot be undone; what was to be recorded of it can. */
  @Override
  public void rollback() {
    connection.abortTransaction();
    delayed.forget();
    begun = false;
  }

  /** Between begin and commit come only statements that join a transaction. */
  @Override
  public void execute(Statement statement) throws SQLException {
    boolean joins = begun && connection.hasTransactions();
    if (joins) {
      beginTransaction();
    } else {
      flush();
    }
    unfinished = Optional.of(statement);
    BsonDocument command;
    try {
      command = DocumentJson.document(statement.text());
    } catch (JsonParseException e) {
      throw new SQLException("this is not Extended JSON: " + e.getMessage(), "42601", e);
    }
    DocumentReply.check(
        joins
            ? connection.runInTransaction(command)
            : connection.run(WriteConcerns.onMostServers(command)));
    unfinished = Optional.empty();
  }

  /** Begins a transaction of the server, behind the entries that must stay if it is undone. */
  private void beginTransaction() throws SQLException {
    if (connection.isInTransaction()) {
      return;
    }
    if (delayed.hasEarlierRows()) {
      fence();
      delayed.writeEarlierRows();
    }
    connection.beginTransaction();
  }

  @Override
  public void flush() throws SQLException {
    if (delayed.hasRows()) {
      fence();
      delayed.writeRows();
    }
  }

  @Override
  public void runWaiting() throws SQLException {
    if (!delayed.isEmpty()) {
      flush();
      delayed.writeChanges();
    }
  }

  /** A look at whose the lock is, right before something is recorded. */
  private void fence() throws SQLException {
    if (lease.isPresent()) {
      lease.get().fence(new DocumentLease(connection, false));
    }
  }

  @Override
  public void reset() {
    // A command leaves nothing in the session.
  }

  @Override
  public Optional<Statement> unfinished() {
    return unfinished;
  }

  @Override
  public void insert(String table, List<String> columns, List<Object> values) {
    Map<String, Object> row = new LinkedHashMap<>();
    for (int i = 0; i < columns.size(); i++) {
      row.put(columns.get(i), values.get(i));
    }
    delayed.insert(table, DocumentOwnTables.document(row));
  }

  @Override
  public void amend(String sql) {
    throw noSql();
  }

  @Override
  public long change(String sql) {
    throw noSql();
  }

  @Override
  public Staging stagingThrough(Session other) {
    throw noSql();
  }

  @Override
  public Optional<Documents> documents() {
    return Optional.of(new DriverDocuments(connection));
  }

  @Override
  public DatabaseLock lock(Duration wait, Consumer<String> onWait) {
    String where = "environment " + target.environment().name() + ", " + shown;
    try {
      // Of its own, so that no command holds the heartbeat up.
      DocumentConnection own = DocumentConnection.open(target.environment());
      DocumentLease store = new DocumentLease(own, true);
      store.make();
      LeaseLock taken = LeaseLock.take(store, where, wait, onWait);
      lease = Optional.of(taken);
      return () -> release(taken);
    } catch (SQLException e) {
      throw DatabaseErrors.translate(this, target.environment().name(), "taking the lock", e);
    }
  }

  /** Records what is not recorded yet, as long as the lock is held. */
  private void release(LeaseLock taken) {
    try (taken) {
      if (connection.isInTransaction()) {
        rollback();
      }
      runWaiting();
    } catch (SQLException e) {
      delayed.drop();
      throw DatabaseErrors.translate(this, target.environment().name(), "writing the journal", e);
    } finally {
      lease = Optional.empty();
    }
  }

  @Override
  public Optional<String> lockHolder() throws SQLException {
    return new DocumentLease(connection, false).holder();
  }

  private Optional<BsonDocument> listed(String name) throws SQLException {
    return connection.collectionNamed(name);
  }

  @Override
  public Optional<String> suspicion(String table, Optional<String> owner) throws SQLException {
    return listed(table)
        .filter(DocumentStructure::isView)
        .map(view -> "it is a view and no collection");
  }

  @Override
  public Schema structure(List<String> without) throws SQLException {
    List<String> own = new ArrayList<>(without);
    own.add(DocumentLease.NAME);
    return new DocumentStructure(connection, own).read();
  }

  @Override
  public void empty(List<String> last) throws SQLException {
    List<String> names = new ArrayList<>();
    for (BsonDocument one : connection.collections()) {
      // Views first: what they are over goes after them.
      names.add(DocumentStructure.isView(one) ? 0 : names.size(), DocumentConnection.name(one));
    }
    names.remove(DocumentLease.NAME);
    names.removeAll(last);
    List<String> there = new ArrayList<>(last);
    for (String name : there) {
      if (listed(name).isPresent()) {
        names.add(name);
      }
    }
    for (String name : names) {
      connection.run(new BsonDocument("drop", new BsonString(name)));
    }
  }

  @Override
  public Ddl ddl() {
    return new DocumentDdl();
  }

  @Override
  public Optional<String> refusal(String sql) {
    return Optional.of("a document database prepares no statements");
  }

  @Override
  public Map<String, Long> rowCounts(Schema schema) throws SQLException {
    Map<String, Long> counts = new LinkedHashMap<>();
    for (Table table : schema.tables()) {
      counts.put(
          table.name(),
          DocumentConnection.driver(
              () -> connection.collection(table.name()).estimatedDocumentCount()));
    }
    return counts;
  }

  @Override
  public boolean exists(Condition.Presence object) throws SQLException {
    return switch (object.kind()) {
      case TABLE ->
          listed(object.table()).filter(one -> !DocumentStructure.isView(one)).isPresent();
      case VIEW -> listed(object.table()).filter(DocumentStructure::isView).isPresent();
      case INDEX -> hasIndex(object.table());
      case COLUMN -> throw noSql();
    };
  }

  private boolean hasIndex(String name) throws SQLException {
    for (BsonDocument collection : connection.collections()) {
      boolean found =
          !DocumentStructure.isView(collection)
              && connection.indexes(DocumentConnection.name(collection)).stream()
                  .anyMatch(index -> DocumentConnection.name(index).equals(name));
      if (found) {
        return true;
      }
    }
    return false;
  }

  @Override
  public boolean holds(String query) {
    throw noSql();
  }

  /** Of a collection all that its structure says; of others what is listed. */
  @Override
  public Optional<String> state(StatementTarget object) throws SQLException {
    Snapshot alone =
        new DocumentStructure(connection, List.of())
            .named(object.name().plain(), object.kind() == StatementTarget.Kind.COLLECTION)
            .snapshot();
    return Optional.of(
        alone.objects().isEmpty()
            ? StatementTarget.MISSING
            : "there as " + Fingerprint.sha256(alone.json()).substring(0, 12));
  }

  @Override
  public boolean isMissing(StatementTarget object) throws SQLException {
    return state(object).filter(StatementTarget.MISSING::equals).isPresent();
  }

  @Override
  public Optional<String> clearing(StatementTarget object) {
    return Optional.empty();
  }

  @Override
  public Fault fault(SQLException e) {
    return new Fault(
        LeaseLock.isTakenOver(e) ? Fault.Kind.TAKEN_OVER : DocumentErrors.kind(e),
        String.valueOf(e.getMessage()));
  }

  @Override
  public OptionalInt offset(Statement statement, SQLException e) {
    return OptionalInt.empty();
  }

  @Override
  public CountedStatements countedStatements() {
    throw noSql();
  }

  @Override
  public void noteTemporary(String drop) {
    // There are none.
  }

  @Override
  public void close() {
    try (connection) {
      if (connection.isInTransaction()) {
        rollback();
      }
      runWaiting();
    } catch (SQLException e) {
      // What was not recorded is in doubt, and the next run decides it.
      return;
    } finally {
      delayed.drop();
    }
  }
}
