package org.wornladder.project;

import java.util.ArrayList;
import java.util.List;
import java.util.function.IntFunction;
import org.wornladder.ProjectException;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Place;
import org.wornladder.sql.Splitter;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Statement;
import org.wornladder.sql.Token;
import org.wornladder.sql.TokenKind;

/** The application's own statements, which must go on working: {@code callers/*.sql}. */
public final class Callers {
  public static final String FOLDER = "callers";

  private Callers() {}

  /**
   * All statements, file by file.
   *
   * @throws ProjectException if a file cannot be read
   */
  public static List<Statement> read(Project project, Dialect dialect) {
    TextFiles files = new TextFiles(project.root());
    Problems problems = new Problems();
    List<Statement> statements = new ArrayList<>();
    for (String name : files.names(FOLDER, ".sql")) {
      String file = FOLDER + "/" + name;
      files.read(file, problems).ifPresent(text -> statements.addAll(split(file, text, dialect)));
    }
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    return statements;
  }

  private static List<Statement> split(String file, String text, Dialect dialect) {
    Place start = new Place(file, 1, 1);
    try {
      return Splitter.split(text, dialect, start);
    } catch (SqlTextException e) {
      throw ProjectException.of(
          start.plus(text, e.offset()), e.getMessage(), "end it, or double the quote");
    }
  }

  /**
   * A statement with the database's own marks in the place of its {@code :parameters}.
   *
   * @param mark the mark of the first, the second and so on
   * @throws SqlTextException if the statement cannot be read
   */
  public static String withPlaceholders(
      Statement caller, Dialect dialect, IntFunction<String> mark) {
    String text = caller.text();
    StringBuilder out = new StringBuilder();
    int count = 0;
    List<Token> tokens = Lexer.tokens(text, dialect);
    for (int i = 0; i < tokens.size(); i++) {
      Token token = tokens.get(i);
      boolean parameter =
          i + 1 < tokens.size()
              && text.substring(token.start(), token.end()).endsWith(":")
              && !text.substring(token.start(), token.end()).endsWith("::")
              && tokens.get(i + 1).kind() == TokenKind.WORD
              && tokens.get(i + 1).start() == token.end();
      if (parameter) {
        out.append(text, token.start(), token.end() - 1).append(mark.apply(++count));
        i++;
      } else {
        out.append(text, token.start(), token.end());
      }
    }
    return out.toString();
  }
}
