package org.wornladder.project;

import java.util.Locale;
import java.util.Optional;

/** The form of a rung's file name: {@code <number>-<words>.sql}, or {@code .json} for commands. */
public final class RungNames {
  static final String SQL = ".sql";
  static final String JSON = ".json";
  private static final int MOST_DIGITS = 18;
  private static final int DIGITS = 4;

  private RungNames() {}

  /** A number and words out of a file name. */
  record Parts(long number, String label, String words) {}

  static Optional<Parts> parse(String fileName) {
    int digits = 0;
    while (digits < fileName.length() && isDigit(fileName.charAt(digits))) {
      digits++;
    }
    String ending = fileName.endsWith(JSON) ? JSON : SQL;
    int end = fileName.length() - ending.length();
    boolean shaped =
        digits > 0
            && digits <= MOST_DIGITS
            && end > digits + 1
            && fileName.charAt(digits) == '-'
            && fileName.endsWith(ending);
    if (!shaped || Long.parseLong(fileName.substring(0, digits)) == 0) {
      return Optional.empty();
    }
    String label = fileName.substring(0, digits);
    String words = fileName.substring(digits + 1, end).replace('-', ' ');
    return Optional.of(new Parts(Long.parseLong(label), label, words));
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }

  /** A number with leading zeros up to four digits. */
  public static String label(long number) {
    String digits = Long.toString(number);
    return "0".repeat(Math.max(0, DIGITS - digits.length())) + digits;
  }

  /** The file name for a number and words: lower case, letters and digits of any script, dashes. */
  static String fileName(String label, String words, String ending) {
    String dashed =
        words.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{N}]+", "-").replaceAll("^-|-$", "");
    return label + "-" + dashed + ending;
  }
}
