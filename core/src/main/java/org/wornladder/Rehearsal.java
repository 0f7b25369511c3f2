package org.wornladder;

import java.util.List;
import java.util.function.BooleanSupplier;
import org.wornladder.climb.Preparation;
import org.wornladder.fault.LadderException;
import org.wornladder.project.Direction;
import org.wornladder.project.Rung;

/**
 * Does for nothing what a call will do in earnest, while a server is on its way: the first time
 * takes ten times as long as those that follow, and there is nothing else to do.
 */
final class Rehearsal {
  private static final int RUNGS = 200;

  private Rehearsal() {}

  /**
   * Takes the newest rungs apart. What is wrong with them is told when they are planned.
   *
   * @param enough asked after every rung
   */
  static void ofPlan(Preparation preparation, List<Rung> rungs, BooleanSupplier enough) {
    try {
      for (int i = rungs.size() - 1; i >= Math.max(0, rungs.size() - RUNGS); i--) {
        if (enough.getAsBoolean()) {
          return;
        }
        preparation.statements(rungs.get(i).script(), Direction.UP);
      }
    } catch (LadderException e) {
      return;
    }
  }
}
