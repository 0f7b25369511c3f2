package org.wornladder.execution;

import java.util.List;
import org.wornladder.project.Condition;

/** Whether a rung runs when its turn comes. */
public sealed interface Decision {
  /** It runs. */
  record Run() implements Decision {}

  /** It is passed over, and counts as in place. */
  record PassOver(String reason) implements Decision {}

  /**
   * Its conditions are examined when its turn comes, since an earlier rung may make them true.
   *
   * @param passes whether it is passed over if one fails; otherwise the run stops
   */
  record AtItsTurn(List<Condition> conditions, boolean passes) implements Decision {}
}
