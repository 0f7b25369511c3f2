package org.wornladder.engine.postgres;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.postgresql.util.PSQLException;
import org.postgresql.util.ServerErrorMessage;
import org.wornladder.engine.Fault;
import org.wornladder.engine.Session;
import org.wornladder.sql.Statement;

/** What PostgreSQL's errors mean (manual, appendix A "Error Codes"). */
final class PostgresFaults {
  /** How the names begin of what we prepare on the server. */
  private static final List<String> PREPARED =
      List.of(PostgresInsertBuffer.PREPARED, PostgresTimingMarks.PREPARED);

  /** The classes of errors whose details name objects; those of others may hold values of rows. */
  private static final Set<String> NAMES_OBJECTS = Set.of("0A", "2B", "42", "55");

  private static final Pattern FUNCTION =
      Pattern.compile("^PL/pgSQL function (.+) line (\\d+) at ", Pattern.MULTILINE);

  private PostgresFaults() {}

  /**
   * @param statement the one that ran
   * @param before how many characters stood in front of it in the message that it was part of
   */
  static OptionalInt offset(SQLException e, Statement statement, int before) {
    Optional<ServerErrorMessage> server = server(e);
    return server.isEmpty() ? OptionalInt.empty() : offset(server.get(), statement.text(), before);
  }

  /** The server counts characters from 1, those outside the Basic Multilingual Plane once. */
  private static OptionalInt offset(ServerErrorMessage server, String text, int before) {
    int characters = server.getPosition() - 1 - before;
    if (server.getPosition() > 0
        && characters >= 0
        && characters < text.codePointCount(0, text.length())) {
      return OptionalInt.of(text.offsetByCodePoints(0, characters));
    }
    Matcher block = FUNCTION.matcher(String.valueOf(server.getWhere()));
    int body = text.indexOf("$");
    return block.find() && block.group(1).equals("inline_code_block") && body >= 0
        ? OptionalInt.of(lineStart(text, body, Integer.parseInt(block.group(2))))
        : OptionalInt.empty();
  }

  /** Where the text of a line begins; line 1 is the one in which the body begins. */
  private static int lineStart(String text, int body, int line) {
    int start = body;
    for (int next = 1; next < line; next++) {
      start = text.indexOf('\n', start) + 1;
    }
    while (line > 1 && start < text.length() - 1 && Character.isWhitespace(text.charAt(start))) {
      start++;
    }
    return start;
  }

  static Fault of(SQLException e) {
    Optional<ServerErrorMessage> server = server(e);
    return new Fault(
        kind(state(e), server),
        words(e, server),
        namesObjects(e) ? Optional.empty() : server.map(ServerErrorMessage::getDetail));
  }

  private static Optional<ServerErrorMessage> server(SQLException e) {
    return e instanceof PSQLException failure
        ? Optional.ofNullable(failure.getServerErrorMessage())
        : Optional.empty();
  }

  private static boolean namesObjects(SQLException e) {
    String state = state(e);
    return state.length() > 2 && NAMES_OBJECTS.contains(state.substring(0, 2));
  }

  static String state(SQLException e) {
    return e.getSQLState() == null ? "" : e.getSQLState();
  }

  private static Fault.Kind kind(String state, Optional<ServerErrorMessage> server) {
    if (server.filter(message -> isOfAnotherSession(state, message)).isPresent()) {
      return Fault.Kind.STRANDED;
    }
    return switch (state) {
      case "55P03", "40P01", "40001" -> Fault.Kind.BUSY;
      case "57014" -> Fault.Kind.TIMEOUT;
      case "57P01", "57P02", "57P03", "57P05" -> Fault.Kind.CUT;
      case "42501" -> Fault.Kind.DENIED;
      case "25006" -> Fault.Kind.READ_ONLY;
      case "53100" -> Fault.Kind.FULL;
      default -> state.startsWith("08") ? Fault.Kind.CUT : Fault.Kind.STATEMENT;
    };
  }

  /**
   * Whether the server's session is another one: it refuses our id, knows not what we made, or what
   * others made.
   */
  private static boolean isOfAnotherSession(String state, ServerErrorMessage message) {
    return (state.equals("23502") && Session.ID_COLUMN.equals(message.getColumn()))
        || ((state.equals("26000") || state.equals("42P05"))
            && PREPARED.stream().anyMatch(String.valueOf(message.getMessage())::contains));
  }

  /** The message, the function in which it happened, the detail if it names objects, the hint. */
  private static String words(SQLException e, Optional<ServerErrorMessage> server) {
    if (server.isEmpty()) {
      return String.valueOf(e.getMessage()).strip();
    }
    StringBuilder words = new StringBuilder(server.get().getMessage());
    Matcher function = FUNCTION.matcher(String.valueOf(server.get().getWhere()));
    if (function.find() && !function.group(1).equals("inline_code_block")) {
      words.append(", in function %s, line %s".formatted(function.group(1), function.group(2)));
    }
    if (server.get().getDetail() != null && namesObjects(e)) {
      words.append(": ").append(server.get().getDetail().replace("\n", "; "));
    }
    String hint = server.get().getHint();
    return words.append(hint == null ? "" : " (" + hint + ")").toString();
  }
}
