package org.wornladder.execution;

import org.wornladder.journal.EntrySubject;
import org.wornladder.project.Direction;
import org.wornladder.project.Rung;
import org.wornladder.project.Script;
import org.wornladder.sql.Dialect;

/** What the journal says of a rung that runs. */
public sealed interface RecordedScript {
  EntrySubject subject();

  /** Of a file: the hashes take time, and are computed when they are wanted. */
  record OfFile(Rung rung, Dialect dialect) implements RecordedScript {
    @Override
    public EntrySubject subject() {
      Script script = rung.script();
      return new EntrySubject(
          rung.number(),
          rung.words(),
          script.fileHash(),
          script.fingerprint(Direction.UP, dialect),
          script.fingerprint(Direction.DOWN, dialect),
          script.wayDownText());
    }
  }

  /** As it was said before. */
  record AsBefore(EntrySubject subject) implements RecordedScript {}
}
