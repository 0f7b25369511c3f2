package org.wornladder;

import java.util.List;
import org.wornladder.change.CreationScript;
import org.wornladder.change.SqlScript;
import org.wornladder.schema.Snapshot;
import org.wornladder.sql.Dialect;

/**
 * What is in a database, as SQL.
 *
 * @param unseen kinds of objects, as {@link Snapshot#unseenKinds} names them
 */
public record StructureSql(CreationScript script, Dialect dialect, List<String> unseen) {
  public StructureSql {
    unseen = List.copyOf(unseen);
  }

  /** The statements as one text, as the database's own client or a rung takes them. */
  public String text() {
    return SqlScript.forClient(script.statements(), dialect);
  }

  /** Whether the statements make all of the structure. */
  public boolean isWhole() {
    return script.leftOut().isEmpty() && unseen.isEmpty();
  }
}
