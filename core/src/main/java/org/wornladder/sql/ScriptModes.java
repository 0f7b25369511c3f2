package org.wornladder.sql;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.sql.Dialect.Trait;

/**
 * Settings that a script changes on its way and under which what follows is read otherwise:
 * MariaDB's {@code sql_mode} (MariaDB Server documentation, "SQL Mode") and PostgreSQL's {@code
 * standard_conforming_strings} (manual, "Platform and Client Compatibility").
 */
final class ScriptModes {
  private static final Pattern SQL_MODE =
      Pattern.compile(
          "(?is)(global\\s+|@@global\\.)?\\bsql_mode`?\\s*:?=\\s*"
              + "((?:'[^']*'|\"[^\"]*\"|\\([^;]*\\)|[^,;'\"(])*)");
  private static final Pattern CONFORMING =
      Pattern.compile(
          "(?is)SET\\s+(?:SESSION\\s+|LOCAL\\s+)?standard_conforming_strings\\s*(?:=|\\bTO\\b)\\s*"
              + "'?(\\w+)'?");
  private static final Set<String> OFF = Set.of("off", "false", "no", "0", "f", "n");

  /** ANSI_QUOTES, and what stands for it among others. */
  private static final Pattern ANSI =
      Pattern.compile("\\b(?:ANSI_QUOTES|ANSI|ORACLE|DB2|MSSQL|MAXDB|POSTGRESQL)\\b");

  private static final Pattern LITERAL = Pattern.compile("NO_BACKSLASH_ESCAPES");

  private final boolean sqlMode;
  private final boolean conforming;
  private Dialect dialect;
  private boolean ansiQuotes;
  private boolean escapes;

  ScriptModes(Dialect dialect) {
    this.dialect = dialect;
    sqlMode = dialect.has(Trait.SQL_MODE);
    conforming = dialect.has(Trait.ESCAPE_STRINGS);
    ansiQuotes = dialect.has(Trait.ANSI_QUOTES);
    escapes = dialect.has(Trait.BACKSLASH_ESCAPES);
  }

  /** How text is read under the present settings. */
  Dialect dialect() {
    return dialect;
  }

  /** Whether a backslash escapes inside single quotes. */
  boolean escapes() {
    return escapes;
  }

  /** Whether a backslash escapes inside double quotes. */
  boolean escapesInDoubleQuotes() {
    return sqlMode && escapes && !ansiQuotes;
  }

  /** Takes a statement that has ended. */
  void after(String statement) {
    if (sqlMode) {
      afterSqlMode(statement);
    } else if (conforming) {
      Matcher set = CONFORMING.matcher(statement);
      if (set.lookingAt()) {
        escapes = OFF.contains(set.group(1).toLowerCase(Locale.ROOT));
      }
    }
    dialect = dialect.with(Trait.BACKSLASH_ESCAPES, escapes).with(Trait.ANSI_QUOTES, ansiQuotes);
  }

  private void afterSqlMode(String statement) {
    if (!sets(statement)) {
      return;
    }
    Matcher set = SQL_MODE.matcher(statement);
    while (set.find()) {
      if (set.group(1) == null) {
        take(set.group(2).toUpperCase(Locale.ROOT));
      }
    }
  }

  /** Dumps set it in comments that the server executes. */
  private static boolean sets(String statement) {
    return statement.regionMatches(true, 0, "SET", 0, 3) || statement.startsWith("/*");
  }

  /**
   * Takes the value that the mode is set to: a list of words, or an expression over the old one.
   */
  private void take(String value) {
    boolean ansi = ANSI.matcher(value).find();
    boolean literal = LITERAL.matcher(value).find();
    if (value.contains("@@")) {
      boolean removes = value.contains("REPLACE");
      ansiQuotes = ansi ? !removes : ansiQuotes;
      escapes = literal ? removes : escapes;
    } else {
      ansiQuotes = ansi;
      escapes = !literal;
    }
  }
}
