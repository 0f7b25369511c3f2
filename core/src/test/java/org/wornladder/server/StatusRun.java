package org.wornladder.server;

import java.nio.file.Path;
import java.util.Optional;
import org.wornladder.Ladder;
import org.wornladder.LadderException;

/** A process that asks for an environment's status, and prints why that fails. */
public final class StatusRun {
  private StatusRun() {}

  /**
   * @param args the project's folder
   */
  public static void main(String[] args) {
    try {
      System.out.println(
          Ladder.builder()
              .project(Path.of(args[0]))
              .build()
              .status(Optional.of("dev"))
              .environment());
    } catch (LadderException e) {
      System.out.println(e.what());
    }
  }
}
