package org.wornladder.engine.postgres;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Expressions as a dump of them reads: {@code code IN ('a', 'b')} over a {@code varchar} is printed
 * as a cast of the whole list when it was just made, and as casts of its members once that text was
 * run again.
 */
final class PostgresCheckText {
  private static final String MEMBER = "'(?:[^']|'')*'::character varying";
  private static final Pattern CAST_LIST =
      Pattern.compile("\\(ARRAY\\[(" + MEMBER + "(?:, " + MEMBER + ")*)\\]\\)::text\\[\\]");
  private static final Pattern ONE = Pattern.compile(MEMBER);

  private PostgresCheckText() {}

  /** The expression with the members cast. */
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
}
