package org.wornladder.survey;

import java.util.List;
import org.wornladder.diff.CreationScript;
import org.wornladder.schema.Snapshot;

/**
 * What stands in a database, as SQL.
 *
 * @param unseen sorts of things, as {@link Snapshot#unseenSorts} names them
 */
public record StructureAsSql(CreationScript script, List<String> unseen) {
  public StructureAsSql {
    unseen = List.copyOf(unseen);
  }

  /** Whether all that stands there is told. */
  public boolean isWhole() {
    return script.leftOut().isEmpty() && unseen.isEmpty();
  }
}
