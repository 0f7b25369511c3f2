package org.wornladder.project;

import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The form of a rung's file name: {@code <number>-<words>.sql}. */
public final class RungNames {
  private static final Pattern FILE = Pattern.compile("(\\d{1,18})-(.+)\\.sql");
  private static final int DIGITS = 4;

  private RungNames() {}

  /** A number and words out of a file name. */
  record Parts(long number, String label, String words) {}

  static Optional<Parts> parse(String fileName) {
    Matcher parts = FILE.matcher(fileName);
    if (!parts.matches() || Long.parseLong(parts.group(1)) == 0) {
      return Optional.empty();
    }
    String words = parts.group(2).replace('-', ' ');
    return Optional.of(new Parts(Long.parseLong(parts.group(1)), parts.group(1), words));
  }

  /** A number with leading zeros up to four digits. */
  public static String label(long number) {
    String digits = Long.toString(number);
    return "0".repeat(Math.max(0, DIGITS - digits.length())) + digits;
  }

  /** The file name for a number and words: lower case, letters and digits of any script, dashes. */
  static String fileName(String label, String words) {
    String dashed =
        words.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{N}]+", "-").replaceAll("^-|-$", "");
    return label + "-" + dashed + ".sql";
  }
}
