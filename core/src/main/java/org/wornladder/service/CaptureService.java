package org.wornladder.service;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.CapturedCallers;
import org.wornladder.engine.Access;
import org.wornladder.engine.CountedStatements;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Token;
import org.wornladder.sql.TokenKind;

/** Makes callers of the statements that a server has counted. */
public record CaptureService(ProjectContext project) {
  private static final Pattern OF_PROGRAMS =
      Pattern.compile("(?is)\\s*(SELECT|INSERT|UPDATE|DELETE|REPLACE|MERGE|WITH)\\b.*");
  private static final Pattern OF_THE_CATALOGUE =
      Pattern.compile("(?is).*\\b(pg_catalog|information_schema|performance_schema|pg_\\w+)\\b.*");

  /** A statement that reads no table shows nothing of the structure. */
  private static final Pattern READS_NOTHING =
      Pattern.compile("(?is)\\s*SELECT\\b(?!.*\\bFROM\\b).*");

  /** Lists of values, which MariaDB counts as one whatever they hold. */
  private static final Pattern IN_LIST = Pattern.compile("(?i)\\bIN\\s*\\(\\s*\\.\\.\\.\\s*\\)");

  private static final Pattern ROWS =
      Pattern.compile(
          "(?i)\\(([^()]*)\\)\\s*VALUES\\s*\\(\\s*\\.\\.\\.\\s*\\)(\\s*/\\* , \\.\\.\\. \\*/)?");

  /** What a server puts in the place of a value. */
  private static final Pattern VALUE = Pattern.compile("\\$\\d+|\\?");

  /**
   * The statements of an environment's programs.
   *
   * @throws org.wornladder.RefusedException if the server counts none, or not for this user
   */
  public CapturedCallers capture(Optional<String> environment) {
    return project.in(
        environment,
        Access.READ,
        context -> {
          Set<String> callers = new LinkedHashSet<>();
          int leftOut = 0;
          CountedStatements counted = context.session().countedStatements();
          for (String text : counted.texts()) {
            String statement = withLists(text);
            Optional<String> caller = caller(context, statement);
            if (caller.isPresent()) {
              callers.add(caller.get());
            } else if (isOfPrograms(context, statement)) {
              leftOut++;
            }
          }
          return new CapturedCallers(
              context.environment().name(), List.copyOf(callers), leftOut, counted.isComplete());
        });
  }

  /** A caller; empty for a statement that is no program's, or that is not there as a whole. */
  private static Optional<String> caller(EnvironmentContext context, String statement) {
    if (!isOfPrograms(context, statement) || statement.contains("...")) {
      return Optional.empty();
    }
    try {
      return Optional.of(withParameters(statement.strip(), context.engine().dialect()));
    } catch (SqlTextException e) {
      return Optional.empty();
    }
  }

  /** One value for a list, and one for each column of a row, where that is known. */
  private static String withLists(String statement) {
    String one = IN_LIST.matcher(statement).replaceAll("IN (?)");
    return ROWS.matcher(one)
        .replaceAll(
            found -> {
              int columns = found.group(1).split(",").length;
              String values = "?" + ", ?".repeat(columns - 1);
              return Matcher.quoteReplacement("(" + found.group(1) + ") VALUES (" + values + ")");
            });
  }

  private static boolean isOfPrograms(EnvironmentContext context, String statement) {
    String lower = statement.toLowerCase(Locale.ROOT);
    return OF_PROGRAMS.matcher(statement).matches()
        && !READS_NOTHING.matcher(statement).matches()
        && !OF_THE_CATALOGUE.matcher(statement).matches()
        && context.journal().tables().stream().noneMatch(lower::contains);
  }

  /** The same with {@code :parameters} where the server's marks stand, outside of texts. */
  static String withParameters(String statement, Dialect dialect) {
    StringBuilder text = new StringBuilder();
    StringBuilder plain = new StringBuilder();
    List<String> parameters = new ArrayList<>();
    for (Token token : Lexer.tokens(statement, dialect)) {
      boolean isText = token.kind() == TokenKind.STRING || token.kind() == TokenKind.QUOTED_NAME;
      if (isText) {
        text.append(marked(plain, parameters)).append(token.in(statement));
        plain.setLength(0);
      } else {
        plain.append(token.in(statement));
      }
    }
    return text.append(marked(plain, parameters)).toString();
  }

  private static String marked(CharSequence plain, List<String> parameters) {
    return VALUE
        .matcher(plain)
        .replaceAll(
            found -> {
              parameters.add(found.group());
              return ":p" + parameters.size();
            });
  }
}
