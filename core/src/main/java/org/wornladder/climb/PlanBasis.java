package org.wornladder.climb;

import java.util.List;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Session;
import org.wornladder.journal.History;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;
import org.wornladder.project.Project;

/**
 * What a plan is computed from: the files, the environment, and what its journal says.
 *
 * @param session open, for its name and address; a plan reads nothing from it
 */
public record PlanBasis(
    Project project, Environment environment, Engine engine, Session session, History history) {
  Preparation preparation() {
    return new Preparation(engine, environment);
  }

  /** A plan that does nothing, for what wants approval without running a step. */
  public Plan empty() {
    return plan(Direction.UP, List.of(), false, List.of());
  }

  Plan plan(Direction direction, List<Step> steps, boolean together, List<String> notes) {
    return new Plan(
        direction,
        environment.name(),
        engine.name(),
        session.address(),
        session.isThere(),
        steps,
        together,
        notes,
        environment.secrets());
  }
}
