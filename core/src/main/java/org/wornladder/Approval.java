package org.wornladder;

import java.util.Optional;
import org.wornladder.execution.Plan;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;

/** Decides whether a plan may run. Asked once, with the very plan that runs if it may. */
@FunctionalInterface
public interface Approval {
  /** No person is asked: a change that needs an answer is refused. */
  Approval UNATTENDED = given(Optional.empty(), false);

  /**
   * Returns if the plan may run.
   *
   * @throws RefusedException if it may not
   */
  void check(Plan plan, Environment environment);

  /**
   * Without a person to ask: a guarded environment wants its own name, and taking something back
   * wants a yes unless the environment is disposable.
   *
   * @param confirmed the name that was given; empty if none was
   * @param yes whether all questions are answered with yes; not enough for a guarded environment
   */
  static Approval given(Optional<String> confirmed, boolean yes) {
    return (plan, environment) -> {
      String name = environment.name();
      boolean named = confirmed.filter(name::equals).isPresent();
      if (confirmed.isPresent() && !named) {
        throw RefusedException.of(
            "the confirmation names " + confirmed.get() + ", but this is " + name,
            "environment " + name,
            "see that this is the environment you mean");
      }
      if (environment.settings().guarded() && !named) {
        throw RefusedException.of(
            name + " is guarded: a change there must be confirmed by its name",
            "environment " + name,
            Advice.of(Advice.Code.CONFIRM_CHANGE, name));
      }
      boolean wantsYes = plan.direction() == Direction.DOWN && !environment.settings().disposable();
      if (wantsYes && !yes && !named) {
        throw RefusedException.of(
            "taking rungs back on " + name + " may lose rows, and nobody is there to ask",
            "environment " + name,
            Advice.of(Advice.Code.ADD_YES));
      }
    };
  }
}
