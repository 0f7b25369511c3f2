package org.wornladder.execution;

import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Session;
import org.wornladder.engine.StatementTarget;
import org.wornladder.engine.StatementTargets;
import org.wornladder.execution.UncertainStatement.Found;
import org.wornladder.journal.Entry;
import org.wornladder.journal.Event;
import org.wornladder.journal.RungRecord;
import org.wornladder.project.Direction;
import org.wornladder.project.Rung;
import org.wornladder.project.Script;
import org.wornladder.sql.Statement;

/**
 * Asks the database about the statements in doubt. A caller that plans a change holds the lock, so
 * the session that ran them has ended: the lock goes with it, and not before.
 */
public final class UncertainStatementCheck {
  /** What comes before the state of an object in the entry ahead of a statement. */
  static final String BEFORE = "before: ";

  private final PlanningContext basis;

  public UncertainStatementCheck(PlanningContext basis) {
    this.basis = basis;
  }

  /** What the database says of each stuck rung with a statement in doubt, by number. */
  public Map<Long, UncertainStatement> read() throws SQLException {
    Map<Long, UncertainStatement> doubts = new HashMap<>();
    for (RungRecord record : basis.history().stuck()) {
      if (record.progress().doubtful() > 0) {
        doubts.put(record.number(), doubt(record));
      } else if (record.progress().failed() > 0) {
        halfMade(record).ifPresent(doubt -> doubts.put(record.number(), doubt));
      }
    }
    return doubts;
  }

  /**
   * What a statement that failed left half made, and could not clear away itself. What was there
   * before it is somebody else's.
   */
  private Optional<UncertainStatement> halfMade(RungRecord record) throws SQLException {
    int number = record.progress().failed();
    Optional<StatementTarget> object =
        statement(record, number).flatMap(one -> StatementTargets.of(one));
    Optional<String> clearing =
        object.isPresent() && wasMissing(record.number(), number)
            ? basis.session().clearing(object.get())
            : Optional.empty();
    return clearing.map(
        drop -> {
          String words = object.get().shown() + " is there half made, by an attempt that failed";
          return new UncertainStatement(number, Found.NOT_DONE, words, Optional.of(drop));
        });
  }

  /** Whether the last attempt at a statement found its object missing. */
  private boolean wasMissing(long rung, int statement) {
    String before = "";
    for (Entry entry : basis.history().entries()) {
      if (entry.event() == Event.STATEMENT_STARTED
          && entry.subject().rung() == rung
          && entry.note().statement() == statement) {
        before = entry.note().text();
      }
    }
    return before.equals(BEFORE + StatementTarget.MISSING);
  }

  private UncertainStatement doubt(RungRecord record) throws SQLException {
    int number = record.progress().doubtful();
    Optional<Statement> statement = statement(record, number);
    if (statement.isEmpty()) {
      return new UncertainStatement(
          number, Found.OPEN, "its text is not at hand", Optional.empty());
    }
    Engine engine = basis.engine();
    Session session = basis.session();
    if (StatementTargets.isRepeatable(statement.get())) {
      String words = "it may run again whether it took effect or not";
      return new UncertainStatement(number, Found.NOT_DONE, words, Optional.empty());
    }
    Optional<StatementTarget> object = StatementTargets.of(statement.get());
    Optional<String> now = object.isEmpty() ? Optional.empty() : session.state(object.get());
    String before = record.last().note().text();
    boolean shown = now.isPresent() && session.showsEffectOf(statement.get());
    if (!shown || !before.startsWith(BEFORE)) {
      return new UncertainStatement(
          number, Found.OPEN, "the structure does not show it", Optional.empty());
    }
    Optional<String> clearing = session.clearing(object.get());
    boolean same = before.equals(BEFORE + now.get());
    String words =
        object.get().shown()
            + " was "
            + before.substring(BEFORE.length())
            + " before it, and is "
            + now.get()
            + " now";
    return new UncertainStatement(
        number, same || clearing.isPresent() ? Found.NOT_DONE : Found.DONE, words, clearing);
  }

  /** The text of a statement, if the way that was running is at hand. */
  private Optional<Statement> statement(RungRecord record, int number) {
    Optional<Rung> file = basis.project().rung(record.number());
    boolean serves = file.isPresent() && record.up().isSame(file.get().script());
    boolean up = record.progress().up();
    if (up && !serves) {
      return Optional.empty();
    }
    Script script = serves ? file.get().script() : RollbackPlanner.journalled(record);
    List<Statement> statements =
        basis.preparation().statements(script, up ? Direction.UP : Direction.DOWN);
    return number <= statements.size() ? Optional.of(statements.get(number - 1)) : Optional.empty();
  }
}
