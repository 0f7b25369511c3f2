package org.wornladder.scratch;

import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.engine.Session;
import org.wornladder.engine.StatementWords;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.project.Callers;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Statement;

/**
 * Tries the application's own statements on a scratch database as it is.
 *
 * @param runs whether they run, with NULL for each parameter, in a transaction that is rolled back;
 *     otherwise they are prepared alone
 */
record CallerTrial(EnvironmentContext scratch, List<Statement> callers, boolean runs) {
  /** Those that a transaction can take back on every engine. */
  private static final Set<String> OF_ROWS =
      Set.of("SELECT", "INSERT", "UPDATE", "DELETE", "MERGE", "REPLACE", "WITH", "VALUES");

  /**
   * What became of one.
   *
   * @param prepared why it cannot be prepared; empty if it can
   * @param ran why it does not run; empty if it does, or was not run
   */
  record Outcome(Optional<String> prepared, Optional<String> ran) {
    boolean canBePrepared() {
      return prepared.isEmpty();
    }

    /** Why it does not work now though it did before; empty otherwise. */
    Optional<String> brokenSince(Outcome before) {
      return before.prepared.isPresent()
          ? Optional.empty()
          : prepared.or(() -> before.ran.isPresent() ? Optional.empty() : ran);
    }

    String reason() {
      return prepared.orElse("");
    }
  }

  /** What became of each, by its place. */
  Map<String, Outcome> outcomes() throws SQLException {
    Map<String, Outcome> outcomes = new LinkedHashMap<>();
    for (Statement caller : callers) {
      outcomes.put(caller.place().toString(), outcome(caller));
    }
    return outcomes;
  }

  private Outcome outcome(Statement caller) throws SQLException {
    try {
      Session session = scratch.session();
      Optional<String> refusal =
          session.refusal(
              Callers.withPlaceholders(caller, scratch.engine().dialect(), session::placeholder));
      List<String> first = StatementWords.first(caller, 1);
      boolean canRun = runs && !first.isEmpty() && OF_ROWS.contains(first.get(0));
      return new Outcome(refusal, refusal.isEmpty() && canRun ? run(caller) : Optional.empty());
    } catch (SqlTextException e) {
      return new Outcome(Optional.of(e.getMessage()), Optional.empty());
    }
  }

  private Optional<String> run(Statement caller) throws SqlTextException, SQLException {
    Session session = scratch.session();
    String sql = Callers.withPlaceholders(caller, scratch.engine().dialect(), number -> "NULL");
    session.begin();
    try {
      session.execute(caller.withText(sql));
      session.flush();
      return Optional.empty();
    } catch (SQLException e) {
      return Optional.of("when it runs: " + session.fault(e).message());
    } finally {
      session.rollback();
    }
  }
}
