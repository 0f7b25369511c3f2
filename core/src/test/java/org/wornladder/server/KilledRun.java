package org.wornladder.server;

import java.nio.file.Path;
import org.wornladder.RollbackOptions;
import org.wornladder.TestLadder;

/** A process that goes up to one step of a run, says so, and waits there to be killed. */
public final class KilledRun {
  private KilledRun() {}

  /**
   * @param args the project's folder, {@code apply} or {@code rollback}, and the step
   */
  public static void main(String[] args) {
    int last = Integer.parseInt(args[2]);
    InterruptedEngine.at(
        step -> {
          if (step == last) {
            System.out.println("here");
            waitForever();
          }
        });
    TestLadder ladder = TestLadder.at(Path.of(args[0]));
    if (args[1].equals("apply")) {
      ladder.apply();
    } else {
      ladder.rollback(new RollbackOptions.To(0));
    }
    System.out.println("steps " + InterruptedEngine.steps());
  }

  private static void waitForever() {
    try {
      Thread.sleep(Long.MAX_VALUE);
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }
}
