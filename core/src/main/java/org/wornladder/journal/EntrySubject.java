package org.wornladder.journal;

/**
 * What an entry is about.
 *
 * @param rung the rung's number; 0 for a standing script
 * @param name the rung's words, or the standing script's name
 * @param upText the SHA-256 of a rung's file as it is; empty for a standing script
 * @param script a rung's way down, or a standing script's whole text, before values are put in;
 *     where one statement is meant, a mark of it
 */
public record EntrySubject(
    long rung,
    String name,
    String upText,
    String upFingerprint,
    String downFingerprint,
    String script) {
  /** The same with another script. */
  public EntrySubject withScript(String other) {
    return new EntrySubject(rung, name, upText, upFingerprint, downFingerprint, other);
  }

  /** A standing script, by its name. */
  public static EntrySubject standing(
      String name, String upFingerprint, String downFingerprint, String script) {
    return new EntrySubject(0, name, "", upFingerprint, downFingerprint, script);
  }
}
