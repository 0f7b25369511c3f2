package org.wornladder.execution;

import org.wornladder.journal.EntrySubject;
import org.wornladder.project.Direction;
import org.wornladder.project.Rung;
import org.wornladder.project.Script;

/** What the journal says of a rung that runs. */
public sealed interface RecordedScript {
  EntrySubject subject();

  /** Of a file: the hashes take time, and are computed when they are wanted. */
  record OfFile(Rung rung) implements RecordedScript {
    @Override
    public EntrySubject subject() {
      Script script = rung.script();
      return new EntrySubject(
          rung.number(),
          rung.words(),
          script.upText(),
          script.fingerprint(Direction.UP),
          script.fingerprint(Direction.DOWN),
          script.wayDownText());
    }
  }

  /** As it was said before. */
  record AsBefore(EntrySubject subject) implements RecordedScript {}
}
