package org.wornladder;

import java.util.List;
import org.wornladder.change.Difference;
import org.wornladder.change.LeftOut;

/**
 * A database that was taken under management.
 *
 * @param rung the rung that builds its structure, relative to the project
 * @param files what was written beside it; empty if the rung was there before
 * @param leftOut what cannot be written as SQL, and is no part of the rung
 * @param objects how many objects are there that were taken
 * @param unseen kinds of objects, such as {@code events}, of which this user may not see all
 * @param differences why the rung is not marked as in place: {@code before} is what it builds,
 *     {@code after} what is there; empty if it is marked
 */
public record AdoptResult(
    String environment,
    String rung,
    List<String> files,
    List<LeftOut> leftOut,
    int objects,
    List<String> unseen,
    List<Difference> differences) {
  public AdoptResult {
    files = List.copyOf(files);
    leftOut = List.copyOf(leftOut);
    unseen = List.copyOf(unseen);
    differences = List.copyOf(differences);
  }
}
