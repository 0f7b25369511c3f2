package org.wornladder.engine.postgres;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.change.GentleStatement;

/**
 * Statements that build beside writers, and rules that are added without reading rows and checked
 * later (PostgreSQL manual, "CREATE INDEX", "ALTER TABLE", "NOT VALID").
 */
final class PostgresGentle {
  private static final String NAME = "(?:\"(?:[^\"]|\"\")+\"|[\\w$]+)";
  private static final String TABLE = "(" + NAME + "(?:\\." + NAME + ")?)";
  private static final Pattern INDEX = Pattern.compile("(?s)CREATE (UNIQUE )?INDEX (?!CONCUR)(.*)");
  private static final Pattern DROP_INDEX = Pattern.compile("(?s)DROP INDEX (?!CONCUR)(.*)");
  private static final Pattern RULE =
      Pattern.compile(
          "(?s)ALTER TABLE "
              + TABLE
              + " ADD CONSTRAINT ("
              + NAME
              + ") ((?:FOREIGN KEY|CHECK)\\b.*)");
  private static final Pattern REQUIRED =
      Pattern.compile("ALTER TABLE " + TABLE + " ALTER COLUMN (" + NAME + ") SET NOT NULL");

  private PostgresGentle() {}

  static GentleStatement of(String statement) {
    Matcher index = INDEX.matcher(statement);
    if (index.matches()) {
      String unique = index.group(1) == null ? "" : index.group(1);
      return outside("CREATE " + unique + "INDEX CONCURRENTLY " + index.group(2));
    }
    Matcher drop = DROP_INDEX.matcher(statement);
    if (drop.matches()) {
      return outside("DROP INDEX CONCURRENTLY " + drop.group(1));
    }
    Matcher rule = RULE.matcher(statement);
    if (rule.matches() && !statement.contains("NOT VALID")) {
      String table = "ALTER TABLE " + rule.group(1);
      String added = statement + " NOT VALID";
      String dropped = table + " DROP CONSTRAINT " + rule.group(2);
      return new GentleStatement(
          List.of(added),
          List.of(dropped),
          List.of(table + " VALIDATE CONSTRAINT " + rule.group(2)),
          List.of(dropped, added),
          false);
    }
    Matcher required = REQUIRED.matcher(statement);
    return required.matches()
        ? required("ALTER TABLE " + required.group(1), required.group(2))
        : GentleStatement.plain(statement);
  }

  private static GentleStatement outside(String statement) {
    return new GentleStatement(List.of(statement), List.of(), List.of(), List.of(), true);
  }

  /** A rule that is valid spares SET NOT NULL the reading of all rows. */
  private static GentleStatement required(String table, String column) {
    String name = column.replace("\"", "").replaceAll("[^\\w$]", "_") + "_required";
    String added =
        table + " ADD CONSTRAINT " + name + " CHECK (" + column + " IS NOT NULL) NOT VALID";
    String dropped = table + " DROP CONSTRAINT " + name;
    return new GentleStatement(
        List.of(added),
        List.of(dropped),
        List.of(
            table + " VALIDATE CONSTRAINT " + name,
            table + " ALTER COLUMN " + column + " SET NOT NULL",
            dropped),
        List.of(added, table + " ALTER COLUMN " + column + " DROP NOT NULL"),
        false);
  }
}
