package org.wornladder.change;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.wornladder.change.ChangeScript.Origin;
import org.wornladder.schema.Snapshot;

/**
 * A change of a structure, and the change that takes it back. The way back is planned by itself: it
 * is not the statements reversed.
 */
public record BothWays(ChangeScript up, ChangeScript down) {
  /**
   * @param differences those to settle, between both structures
   * @param before without owners and grants
   * @param wanted the whole structure that the differences lead to, likewise
   */
  public static BothWays of(
      List<Difference> differences, Snapshot before, Snapshot wanted, Ddl ddl, Origin origin) {
    ChangeScript up = ChangeScript.of(differences, before, wanted, ddl, origin);
    Snapshot after = MadeIndexes.in(Accepted.in(before, up.written()), wanted);
    return new BothWays(up, ChangeScript.of(reversed(up.written()), after, before, ddl, origin));
  }

  private static List<Difference> reversed(List<Difference> differences) {
    List<Difference> reversed = new ArrayList<>();
    for (Difference difference : differences) {
      reversed.add(difference.reversed());
    }
    Collections.reverse(reversed);
    return reversed;
  }
}
