package org.wornladder.project;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.ProjectException;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Place;

/** What a rung that has no file yet is written from. */
public sealed interface NewRung permits RungDraft, CommandDraft {
  /**
   * A rung of statements that were computed or came out of a database.
   *
   * @param up statements without end marks
   * @param down likewise
   * @param noWayDown why there is none; empty if there is one
   * @param remarks lines for whoever reads the rung
   */
  static NewRung of(
      Dialect dialect,
      List<String> up,
      List<String> down,
      Optional<String> noWayDown,
      List<String> remarks) {
    return dialect.has(Dialect.Trait.JSON)
        ? new CommandDraft(up, down, noWayDown, remarks)
        : new RungDraft(RungDraft.lines(up), RungDraft.lines(down), noWayDown, remarks);
  }

  /** The whole text of the file. */
  String text(String about);

  /** How the file's name ends. */
  String ending();

  /**
   * Refuses what could not be read back as a rung, before anything is written.
   *
   * @param advice what to do then
   * @throws ProjectException if it is too large
   */
  default void refuseTooLarge(Advice advice) {
    long size = text("").getBytes(StandardCharsets.UTF_8).length;
    if (size > TextFiles.LARGEST) {
      throw ProjectException.of(
          Place.of(ProjectReader.RUNGS),
          "this makes a rung of " + (size >> 20) + " MB; it can be at most " + TextFiles.MOST,
          advice);
    }
  }

  /**
   * Refuses to write the value of a variable into a file.
   *
   * @throws ProjectException if there is one in a statement
   */
  default void refuseSecrets(Secrets secrets) {
    if (secrets.isIn(text(""))) {
      throw ProjectException.of(
          Place.of(ProjectReader.RUNGS),
          "a definition holds the value of a variable, which would stand in the file in clear",
          Advice.hint("write this rung by hand, with @{NAME} in the place of the value"));
    }
  }
}
