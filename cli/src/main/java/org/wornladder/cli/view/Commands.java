package org.wornladder.cli.view;

import java.util.Set;
import java.util.regex.Pattern;

/** Commands that work when they are copied. */
public final class Commands {
  private static final Pattern PLAIN = Pattern.compile("[\\w./:=@%+,-]+");

  private Commands() {}

  /**
   * Adds to each command that changes a guarded environment the option without which it is refused.
   *
   * @param text sentences with commands in them
   * @param guarded the names of the guarded environments
   */
  static String confirmed(String text, Set<String> guarded) {
    String confirmed = text;
    for (String name : guarded) {
      String change =
          "(ladder (?:apply|rollback|settle|seed|adopt) "
              + Pattern.quote(name)
              + ")(?![\\w-])(?! --dry-run)(?! --confirm)";
      confirmed = confirmed.replaceAll(change, "$1 --confirm " + name);
    }
    return confirmed;
  }

  /** A path as one word of a command line (POSIX, Shell Command Language, 2.2.2). */
  public static String word(String path) {
    return PLAIN.matcher(path).matches() ? path : "'" + path.replace("'", "'\\''") + "'";
  }

  /** The environment as a set, if it is guarded. */
  static Set<String> guarded(String environment, boolean guarded) {
    return guarded ? Set.of(environment) : Set.of();
  }
}
