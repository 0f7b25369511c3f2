package org.wornladder.engine.mariadb;

import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What MySQL's information schema says otherwise than MariaDB's (MySQL manual, "INFORMATION_SCHEMA
 * Tables").
 */
final class MysqlCatalog {
  /** Which table a check is on, the list of all constraints says. */
  static final String CHECKS =
      """
      SELECT t.table_name AS TABLE_NAME, c.constraint_name AS CONSTRAINT_NAME,
          c.check_clause AS CHECK_CLAUSE, t.enforced AS ENFORCED
        FROM information_schema.check_constraints c
        JOIN information_schema.table_constraints t ON t.constraint_schema = c.constraint_schema
          AND t.constraint_name = c.constraint_name AND t.constraint_type = 'CHECK'
       WHERE c.constraint_schema = %s ORDER BY t.table_name, c.constraint_name""";

  /** The algorithm stands in the view's own statement alone. */
  static final String VIEWS =
      """
      SELECT table_name, '', CASE WHEN view_definition <> '' THEN concat('CREATE ',
          CASE WHEN security_type = 'DEFINER' THEN '' ELSE 'SQL SECURITY INVOKER ' END,
          'VIEW `', replace(table_name, '`', '``'), '` AS ', view_definition,
          CASE WHEN check_option = 'NONE' THEN ''
            ELSE concat(' WITH ', check_option, ' CHECK OPTION') END) END
        FROM information_schema.views WHERE table_schema = %s ORDER BY table_name""";

  static final String NOT_ENFORCED = " NOT ENFORCED";

  /** An expression inside a functional index, a default or a check has its quotes escaped. */
  private static final Pattern ESCAPED = Pattern.compile("\\\\(.)", Pattern.DOTALL);

  /** How {@code EXTRA} marks a default that is computed. */
  private static final String COMPUTED = "DEFAULT_GENERATED";

  private static final Pattern PLAIN =
      Pattern.compile(
          "((tiny|small|medium|big)?int|decimal|float|double|bit|(var)?binary|year)\\b.*");

  private static final Pattern ALGORITHM = Pattern.compile("^CREATE ALGORITHM=(\\w+) ");

  private MysqlCatalog() {}

  /** An expression as a statement writes it. */
  static String expression(String given) {
    return ESCAPED.matcher(given).replaceAll(match -> Matcher.quoteReplacement(match.group(1)));
  }

  /** A check's demand as a statement writes it. */
  static String check(String clause, String enforced) {
    return expression(clause) + (enforced.equals("NO") ? NOT_ENFORCED : "");
  }

  /**
   * A column's default as a statement writes it: in the catalogue a literal has no quotes.
   *
   * @param type the column's
   */
  static String defaultValue(String given, String type, String extra) {
    if (extra.contains(COMPUTED)) {
      String value = expression(given);
      return value.startsWith("CURRENT_TIMESTAMP") ? value : "(" + value + ")";
    }
    return PLAIN.matcher(type).matches() ? given : MariadbEngine.QUOTING.text(given);
  }

  /**
   * The algorithm of a view that has one of its own.
   *
   * @param statement as {@code SHOW CREATE VIEW} says it
   */
  static Optional<String> algorithm(String statement) {
    Matcher found = ALGORITHM.matcher(statement);
    return found.find() && !found.group(1).equals("UNDEFINED")
        ? Optional.of(found.group(1))
        : Optional.empty();
  }
}
