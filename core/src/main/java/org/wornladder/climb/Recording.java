package org.wornladder.climb;

import org.wornladder.journal.Subject;
import org.wornladder.project.Direction;
import org.wornladder.project.Rung;
import org.wornladder.project.Script;

/** What the journal says of a rung that runs. */
public sealed interface Recording {
  Subject subject();

  /** Of a file: the hashes take time, and are computed when they are wanted. */
  record OfFile(Rung rung) implements Recording {
    @Override
    public Subject subject() {
      Script script = rung.script();
      return new Subject(
          rung.number(),
          rung.words(),
          script.upText(),
          script.fingerprint(Direction.UP),
          script.fingerprint(Direction.DOWN),
          script.wayDownText());
    }
  }

  /** As it was said before. */
  record AsBefore(Subject subject) implements Recording {}
}
