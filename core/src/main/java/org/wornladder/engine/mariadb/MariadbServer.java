package org.wornladder.engine.mariadb;

import java.util.Arrays;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Which server answers, by its version string: MySQL has grown apart from MariaDB (MySQL manual,
 * "Information Functions"; MariaDB documentation, "VERSION").
 */
record MariadbServer(boolean isMysql, int major, int minor, int patch) {
  /** Some versions of MariaDB put a number in front that older clients expect. */
  private static final Pattern VERSION =
      Pattern.compile("^(?:5\\.5\\.5-)?(\\d+)\\.(\\d+)(?:\\.(\\d+))?");

  /** The oldest of MariaDB that is supported. */
  static final MariadbServer MARIADB = new MariadbServer(false, 10, 6, 0);

  /**
   * @param version what {@code VERSION()} says, such as {@code 10.11.6-MariaDB} or {@code 8.4.3}
   */
  static MariadbServer of(String version) {
    boolean mysql = !version.toLowerCase(Locale.ROOT).contains("mariadb");
    Matcher numbers = VERSION.matcher(version);
    return numbers.find()
        ? new MariadbServer(
            mysql, number(numbers.group(1)), number(numbers.group(2)), number(numbers.group(3)))
        : new MariadbServer(mysql, 0, 0, 0);
  }

  private static int number(String digits) {
    return digits == null ? 0 : Integer.parseInt(digits);
  }

  /** Whether it is this version of its kind or a newer one. */
  boolean isAtLeast(int wantedMajor, int wantedMinor, int wantedPatch) {
    return Arrays.compare(
            new int[] {major, minor, patch}, new int[] {wantedMajor, wantedMinor, wantedPatch})
        >= 0;
  }
}
