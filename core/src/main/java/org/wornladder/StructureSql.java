package org.wornladder;

import java.util.List;
import org.wornladder.change.CreationScript;
import org.wornladder.schema.Snapshot;

/**
 * What is in a database, as SQL.
 *
 * @param unseen kinds of objects, as {@link Snapshot#unseenKinds} names them
 */
public record StructureSql(CreationScript script, List<String> unseen) {
  public StructureSql {
    unseen = List.copyOf(unseen);
  }

  /** Whether the statements make all of the structure. */
  public boolean isWhole() {
    return script.leftOut().isEmpty() && unseen.isEmpty();
  }
}
