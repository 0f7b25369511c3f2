package org.wornladder;

import java.util.List;
import org.wornladder.change.Difference;
import org.wornladder.change.LeftOut;

/**
 * What was found in a database and made official.
 *
 * @param file the rung, relative to the project
 * @param written the differences that it makes elsewhere
 * @param leftOut those that cannot be written, and stay differences
 * @param hidden objects that this user may not read: whether they differ is unknown
 * @param standing those of objects that a standing script makes, which stay its own
 * @param oneWay those of which the way back cannot be written
 */
public record DriftRung(
    String environment,
    String file,
    List<Difference> written,
    List<LeftOut> leftOut,
    List<Difference> hidden,
    List<OfStanding> standing,
    List<LeftOut> oneWay) {
  /**
   * A difference of an object that a standing script makes.
   *
   * @param file the script, relative to the project
   */
  public record OfStanding(String file, Difference difference) {}

  public DriftRung {
    written = List.copyOf(written);
    leftOut = List.copyOf(leftOut);
    hidden = List.copyOf(hidden);
    standing = List.copyOf(standing);
    oneWay = List.copyOf(oneWay);
  }
}
