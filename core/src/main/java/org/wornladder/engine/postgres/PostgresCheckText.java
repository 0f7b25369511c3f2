package org.wornladder.engine.postgres;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Expressions in one form: {@code code IN ('a', 'b')} over a {@code varchar} is printed as a cast
 * of the whole list where that was written, and as casts of its members where the printed text was
 * run again, as a dump does.
 */
final class PostgresCheckText {
  private static final String MEMBER = "'(?:[^']|'')*'::character varying";
  private static final String LIST =
      "\\(ARRAY\\[(" + MEMBER + "(?:, " + MEMBER + ")*)\\]\\)::text\\[\\]";
  private static final Pattern CAST_LIST = Pattern.compile(LIST);
  private static final Pattern ONE = Pattern.compile(MEMBER);

  /** The whole comparison of a column with such a list. */
  private static final Pattern COMPARISON =
      Pattern.compile(
          "\\(((?:\"(?:[^\"]|\"\")*\"|[^()\" ])+)\\)::text (= ANY|<> ALL) \\(" + LIST + "\\)");

  private PostgresCheckText() {}

  /** The expression with the members cast, for comparisons. */
  static String canonical(String expression) {
    if (!expression.contains("(ARRAY[")) {
      return expression;
    }
    return CAST_LIST
        .matcher(expression)
        .replaceAll(
            list ->
                Matcher.quoteReplacement(
                    "ARRAY[" + ONE.matcher(list.group(1)).replaceAll("($0)::text") + "]"));
  }

  /**
   * The expression as it must be written to be printed as it is; empty where that is its canonical
   * form.
   */
  static String written(String expression) {
    if (canonical(expression).equals(expression)) {
      return "";
    }
    return COMPARISON
        .matcher(expression)
        .replaceAll(
            found ->
                Matcher.quoteReplacement(
                    found.group(1)
                        + (found.group(2).equals("= ANY") ? " IN (" : " NOT IN (")
                        + found.group(3)
                        + ")"));
  }
}
