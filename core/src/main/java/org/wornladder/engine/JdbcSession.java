package org.wornladder.engine;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.RefusedException;
import org.wornladder.project.Condition;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.sql.Fingerprint;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/** What the sessions of all engines have in common. */
public abstract class JdbcSession implements Session {
  /** SQLite takes at most 500 parts in one compound query (its documentation, "Limits"). */
  private static final int COUNTS_IN_ONE_QUERY = 200;

  private static final int STATE_LENGTH = 16;

  private final Connection connection;
  private final java.sql.Statement control;
  private final Quoting quoting;

  private Optional<PreparedStatement> insert = Optional.empty();
  private String insertsInto = "";
  private Optional<Statement> unfinished = Optional.empty();
  private final List<String> temporary = new ArrayList<>();
  private boolean inTransaction;

  protected JdbcSession(Connection connection, Quoting quoting) throws SQLException {
    this.connection = connection;
    this.quoting = quoting;
    control = connection.createStatement();
    control.setEscapeProcessing(false);
  }

  /** Makes a session on a connection that is open. */
  protected interface Opening<S> {
    S session() throws SQLException;
  }

  /** Makes a session, and closes the connection if that fails. */
  protected static <S> S opened(Connection connection, Opening<S> opening) throws SQLException {
    try {
      return opening.session();
    } catch (SQLException | RuntimeException e) {
      try {
        connection.close();
      } catch (SQLException second) {
        e.addSuppressed(second);
      }
      throw e;
    }
  }

  @Override
  public final Connection connection() {
    return connection;
  }

  /** For the session's own statements, one at a time. */
  protected final java.sql.Statement control() {
    return control;
  }

  protected final Quoting quoting() {
    return quoting;
  }

  protected final boolean inTransaction() {
    return inTransaction;
  }

  @Override
  public boolean isThere() {
    return true;
  }

  @Override
  public String quoted(String table) {
    return quoting.name(table);
  }

  /** For a session that begins transactions in its own way: one has begun. */
  protected final void began() {
    inTransaction = true;
  }

  protected final void ended() {
    inTransaction = false;
  }

  @Override
  public void begin() throws SQLException {
    control.execute(beginText());
    inTransaction = true;
  }

  @Override
  public void beginConsistentRead() throws SQLException {
    control.execute(consistentReadText());
    inTransaction = true;
  }

  /** How a transaction begins whose queries all see one moment. */
  protected String consistentReadText() {
    return "BEGIN";
  }

  /** How a transaction begins. */
  protected String beginText() {
    return "BEGIN";
  }

  @Override
  public void commit() throws SQLException {
    control.execute("COMMIT");
    inTransaction = false;
  }

  @Override
  public void rollback() throws SQLException {
    inTransaction = false;
    releaseInsert();
    control.execute("ROLLBACK");
  }

  @Override
  public void execute(Statement statement) throws SQLException {
    if (!inTransaction) {
      // Some statements refuse to run beside one that is still prepared.
      releaseInsert();
    }
    runs(statement);
    try (java.sql.Statement sql = connection.createStatement()) {
      sql.setEscapeProcessing(false);
      sql.execute(statement.text());
    }
    ran();
  }

  /** A statement begins to run. */
  protected final void runs(Statement statement) {
    unfinished = Optional.of(statement);
  }

  /** The statement that ran has ended well. */
  protected final void ran() {
    unfinished = Optional.empty();
  }

  @Override
  public final Optional<Statement> unfinished() {
    return unfinished;
  }

  @Override
  public void flush() throws SQLException {}

  @Override
  public void runWaiting() throws SQLException {
    reset();
    flush();
  }

  @Override
  public Optional<String> refusal(String sql) {
    try (PreparedStatement prepared = connection.prepareStatement(sql)) {
      // Some drivers ask the server only when they are asked for what it says.
      prepared.getParameterMetaData().getParameterCount();
      prepared.getMetaData();
      return Optional.empty();
    } catch (SQLException e) {
      return Optional.of(fault(e).message());
    }
  }

  @Override
  public long change(String sql) throws SQLException {
    flush();
    return control.executeLargeUpdate(sql);
  }

  @Override
  public void amend(String sql) throws SQLException {
    control.executeUpdate(sql);
  }

  @Override
  public void insert(String table, List<String> columns, List<Object> values) throws SQLException {
    if (!insertsInto.equals(table)) {
      releaseInsert();
      insert = Optional.of(connection.prepareStatement(insertText(table, columns)));
      insertsInto = table;
    }
    PreparedStatement sql = insert.orElseThrow();
    for (int i = 0; i < values.size(); i++) {
      if (values.get(i) instanceof Number number) {
        sql.setLong(i + 1, number.longValue());
      } else {
        sql.setString(i + 1, values.get(i).toString());
      }
    }
    sql.executeUpdate();
  }

  private String insertText(String table, List<String> columns) {
    List<String> places = new ArrayList<>();
    for (String column : columns) {
      places.add(place(column));
    }
    return "INSERT INTO "
        + quoted(table)
        + " ("
        + String.join(", ", columns.stream().map(this::ownColumn).toList())
        + ") VALUES ("
        + String.join(", ", places)
        + ")";
  }

  /** The placeholder of a column's value in an insertion; one question mark is part of it. */
  protected String place(String column) {
    return "?";
  }

  private void releaseInsert() throws SQLException {
    Optional<PreparedStatement> open = insert;
    insert = Optional.empty();
    insertsInto = "";
    if (open.isPresent()) {
      open.get().close();
    }
  }

  @Override
  public Map<String, Long> rowCounts(Schema schema) throws SQLException {
    Map<String, Long> counts = new LinkedHashMap<>();
    List<Table> tables = schema.tables();
    for (int from = 0; from < tables.size(); from += COUNTS_IN_ONE_QUERY) {
      count(tables.subList(from, Math.min(tables.size(), from + COUNTS_IN_ONE_QUERY)), counts);
    }
    return counts;
  }

  /** Many in one query; one by one where one of them may not be read. */
  private void count(List<Table> tables, Map<String, Long> counts) throws SQLException {
    List<String> parts = new ArrayList<>();
    for (int i = 0; i < tables.size(); i++) {
      parts.add("SELECT " + i + ", count(*) FROM " + quoted(tables.get(i).name()));
    }
    try (ResultSet rows = control.executeQuery(String.join(" UNION ALL ", parts))) {
      while (rows.next()) {
        counts.put(tables.get(rows.getInt(1)).name(), rows.getLong(2));
      }
    } catch (SQLException e) {
      if (fault(e).kind() != Fault.Kind.DENIED) {
        throw e;
      }
      for (Table table : tables.size() == 1 ? List.<Table>of() : tables) {
        count(List.of(table), counts);
      }
    }
  }

  /** Whether it is there: enough where no statement that changes a definition can be in doubt. */
  @Override
  public Optional<String> state(StatementTarget object) throws SQLException {
    if (object.kind() == StatementTarget.Kind.COLUMN) {
      return Optional.of(
          presence(
              new Condition.Presence(
                  Condition.Kind.COLUMN, object.table().text(), object.name().plain(), true, "")));
    }
    Optional<Condition.Kind> kind =
        switch (object.kind()) {
          case TABLE -> Optional.of(Condition.Kind.TABLE);
          case INDEX -> Optional.of(Condition.Kind.INDEX);
          case VIEW -> Optional.of(Condition.Kind.VIEW);
          default -> Optional.empty();
        };
    if (kind.isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        presence(new Condition.Presence(kind.get(), object.name().text(), "", true, "")));
  }

  private String presence(Condition.Presence object) throws SQLException {
    return exists(object) ? "there" : StatementTarget.MISSING;
  }

  @Override
  public boolean isMissing(StatementTarget object) throws SQLException {
    return state(object).filter(StatementTarget.MISSING::equals).isPresent();
  }

  @Override
  public Optional<String> clearing(StatementTarget object) throws SQLException {
    return Optional.empty();
  }

  /** A state out of a definition, short enough for the journal. */
  protected static String there(String definition) {
    return "there, definition "
        + Fingerprint.ofParts(List.of(definition)).substring(0, STATE_LENGTH);
  }

  /** Whether a query with the values given has a row. */
  protected final boolean hasRow(String query, String... values) throws SQLException {
    try (PreparedStatement sql = connection.prepareStatement(query)) {
      for (int i = 0; i < values.length; i++) {
        sql.setString(i + 1, values[i]);
      }
      try (ResultSet rows = sql.executeQuery()) {
        return rows.next();
      }
    }
  }

  /** The first value of a query; empty if there is none. */
  protected final Optional<String> value(String query) throws SQLException {
    try (ResultSet rows = control.executeQuery(query)) {
      return rows.next() ? Optional.ofNullable(rows.getString(1)) : Optional.empty();
    }
  }

  /** The first value of a query as a whole number; 0 if there is none. */
  public final long number(String query) throws SQLException {
    try (ResultSet rows = control.executeQuery(query)) {
      return rows.next() ? rows.getLong(1) : 0;
    }
  }

  /** Whether a query's first value is true or above zero. */
  protected final boolean isTrue(String query) throws SQLException {
    try (java.sql.Statement sql = connection.createStatement()) {
      sql.setEscapeProcessing(false);
      try (ResultSet rows = sql.executeQuery(query)) {
        return rows.next() && isTrue(rows.getObject(1));
      }
    }
  }

  private static boolean isTrue(Object value) {
    return value instanceof Boolean truth
        ? truth
        : value instanceof Number number && number.doubleValue() > 0;
  }

  /** Texts as a list in parentheses; a list that nothing is in where there are none. */
  protected static String list(Quoting quoting, List<String> texts) {
    List<String> written = new ArrayList<>();
    texts.forEach(text -> written.add(quoting.text(text)));
    return "("
        + String.join(", ", written.isEmpty() ? Collections.singletonList("NULL") : written)
        + ")";
  }

  /** What is to be done before the connection is closed. */
  protected void beforeClose() throws SQLException {}

  @Override
  public CountedStatements countedStatements() throws SQLException {
    throw RefusedException.of(
        "this engine keeps no statistics of statements",
        address(),
        "write the application's statements into callers/*.sql");
  }

  /** The first column of a query. */
  protected final List<String> column(String query) throws SQLException {
    List<String> values = new ArrayList<>();
    try (ResultSet rows = control.executeQuery(query)) {
      while (rows.next()) {
        values.add(rows.getString(1));
      }
    }
    return values;
  }

  @Override
  public final void noteTemporary(String drop) {
    temporary.add(drop);
  }

  /** Whether temporary tables outlive the session if nothing drops them. */
  protected boolean dropsTemporary() {
    return BorrowedConnection.isBorrowed(connection);
  }

  private void dropTemporary() throws SQLException {
    if (dropsTemporary()) {
      for (String drop : temporary) {
        control.execute(drop);
      }
    }
  }

  @Override
  public final void close() {
    try (connection;
        control) {
      if (connection.isClosed()) {
        return;
      }
      if (inTransaction) {
        rollback();
      }
      releaseInsert();
      dropTemporary();
      beforeClose();
    } catch (SQLException e) {
      // Nothing is lost: what was not committed is undone with the session.
      return;
    }
  }
}
