package org.wornladder;

import java.util.List;
import java.util.OptionalInt;
import java.util.OptionalLong;
import org.wornladder.change.Risk;

/**
 * A risk of a waiting rung, and what the database says of it.
 *
 * @param rung its number
 * @param line of the statement in the rung's file; empty where the structures show it, and no
 *     statement alone
 * @param accepted whether the rung says that it is meant
 * @param rows how many rows or keys it concerns now; empty where rows do not decide, or could not
 *     be asked for
 * @param bytes the size of the table that others wait for; empty where none do, or the database
 *     does not say
 * @param examples the keys of some of them; none unless values of rows may be shown
 */
public record FoundRisk(
    long rung,
    Risk risk,
    OptionalInt line,
    boolean accepted,
    OptionalLong rows,
    OptionalLong bytes,
    List<String> examples) {
  public FoundRisk {
    examples = List.copyOf(examples);
  }
}
