package org.wornladder.change;

/**
 * How an engine makes a change of something that is there.
 *
 * @param reason why not, where it cannot; otherwise empty
 */
public record Alteration(How how, String reason) {
  public static final Alteration IN_PLACE = new Alteration(How.IN_PLACE, "");
  public static final Alteration RECREATE = new Alteration(How.RECREATE, "");
  public static final Alteration REBUILD = new Alteration(How.REBUILD, "");

  /** The ways. */
  public enum How {
    /** A statement alters it where it is. */
    IN_PLACE,
    /** It is dropped and created: it holds no rows. */
    RECREATE,
    /** Its table is made anew, and the rows copied. */
    REBUILD,
    NOT_POSSIBLE
  }

  /**
   * One that the engine has no statement for.
   *
   * @param reason why, as half a sentence
   */
  public static Alteration notPossible(String reason) {
    return new Alteration(How.NOT_POSSIBLE, reason);
  }
}
