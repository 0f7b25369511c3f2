package org.wornladder.execution;

import java.util.List;
import java.util.stream.Stream;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Session;
import org.wornladder.execution.Step.Transactions;
import org.wornladder.journal.History;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;
import org.wornladder.project.Header;
import org.wornladder.project.Project;
import org.wornladder.sql.Statement;

/**
 * What a plan is computed from: the files, the environment, and what its journal says.
 *
 * @param session open, for its name and address; a plan reads nothing else from it
 */
public record PlanningContext(
    Project project, Environment environment, Engine engine, Session session, History history) {
  /** Prepares scripts for this environment. */
  ScriptPreparation preparation() {
    return new ScriptPreparation(engine, environment);
  }

  /**
   * How a way is committed: statement by statement because it says so, because a part of it was
   * done so, or because it changes the structure where the engine cannot undo that.
   *
   * @param begun whether a run of it stopped before its end
   */
  Transactions transactions(Header header, List<Statement> statements, boolean begun) {
    if (header.outsideTransaction() && engine.abilities().contains(Ability.LIMITED_TRANSACTIONS)) {
      return Transactions.NONE;
    }
    boolean undone =
        engine.abilities().contains(Ability.TRANSACTIONAL_DDL)
            || statements.stream().allMatch(engine::joinsTransaction);
    return begun || header.outsideTransaction() || header.batching().isPresent() || !undone
        ? Transactions.PER_STATEMENT
        : Transactions.ONE;
  }

  /** A plan that does nothing, for what wants approval without running a step. */
  public Plan empty() {
    return plan(Direction.UP, List.of(), false, List.of());
  }

  private SecretDefinitions secretDefinitions() {
    return new SecretDefinitions(environment.definitionSecrets());
  }

  Plan plan(Direction direction, List<Step> steps, boolean together, List<Plan.Note> notes) {
    return new Plan(
        direction,
        environment.name(),
        engine.name(),
        session.address(),
        environment.settings().guarded(),
        session.isThere(),
        steps,
        together,
        Stream.concat(notes.stream(), secretDefinitions().notes(steps).stream()).toList(),
        environment.secrets());
  }
}
