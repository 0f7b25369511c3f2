package org.wornladder.sql;

import java.util.Optional;
import org.wornladder.sql.Dialect.Trait;

/**
 * Commands of the databases' own shells inside a script. Those that end a statement, or mean
 * nothing here, are understood; any other is refused, since the server would take it for SQL
 * (PostgreSQL manual, "psql"; MariaDB documentation, "mariadb Command-Line Client"; SQLite,
 * "Command Line Shell").
 */
enum ShellCommands {
  NONE {
    @Override
    Optional<Found> at(String text, int at, boolean statementOpen) {
      return Optional.empty();
    }
  },
  PSQL {
    @Override
    Optional<Found> at(String text, int at, boolean statementOpen) {
      if (text.charAt(at) != '\\' || at + 1 == text.length()) {
        return Optional.empty();
      }
      if (text.charAt(at + 1) == ';') {
        return end(at + 2);
      }
      int line = Scan.line(text, at);
      String command = text.substring(at, nameEnd(text, at + 1));
      return switch (command) {
        // A dump guards itself with these against commands in its data.
        case "\\restrict", "\\unrestrict" -> Optional.of(new Found(TokenKind.LINE_COMMENT, line));
        case "\\g" -> {
          if (!text.substring(at + 2, line).isBlank()) {
            throw SqlTextException.shellCommand("\\g with a file", "psql", at);
          }
          yield end(at + 2);
        }
        default -> throw SqlTextException.shellCommand(command, "psql", at);
      };
    }
  },
  MARIADB {
    private static final String COMMANDS = "cdehnpPqrRstTuWwx!#.?-";

    @Override
    Optional<Found> at(String text, int at, boolean statementOpen) {
      char letter = at + 1 < text.length() ? text.charAt(at + 1) : '\0';
      if (text.charAt(at) == '\\') {
        if (letter == 'g' || letter == 'G') {
          return end(at + 2);
        }
        if (COMMANDS.indexOf(letter) >= 0) {
          throw SqlTextException.shellCommand("\\" + letter, "mariadb", at);
        }
      }
      boolean source = !statementOpen && text.regionMatches(true, at, "source ", 0, 7);
      if (source) {
        throw SqlTextException.shellCommand("source", "mariadb", at);
      }
      return Optional.empty();
    }
  },
  SQLITE {
    @Override
    Optional<Found> at(String text, int at, boolean statementOpen) {
      boolean command =
          !statementOpen
              && text.charAt(at) == '.'
              && at + 1 < text.length()
              && Scan.startsWord(text.charAt(at + 1));
      if (command) {
        throw SqlTextException.shellCommand(
            text.substring(at, Scan.word(text, at + 1)), "sqlite3", at);
      }
      return Optional.empty();
    }
  };

  /** What a command is in a script, and where it ends. */
  record Found(TokenKind kind, int end) {}

  static ShellCommands of(Dialect dialect) {
    if (dialect.has(Trait.LOAD_DATA)) {
      return PSQL;
    }
    if (dialect.has(Trait.DELIMITER_LINES)) {
      return MARIADB;
    }
    return dialect.has(Trait.TRIGGER_BODIES) ? SQLITE : NONE;
  }

  /**
   * The command that begins at an offset; empty if none does.
   *
   * @throws SqlTextException for one that cannot be in a script
   */
  abstract Optional<Found> at(String text, int at, boolean statementOpen);

  private static Optional<Found> end(int to) {
    return Optional.of(new Found(TokenKind.END, to));
  }

  /** Behind the letters of a name, or the one sign that it is. */
  private static int nameEnd(String text, int at) {
    return Math.max(at + 1, Scan.word(text, at));
  }
}
