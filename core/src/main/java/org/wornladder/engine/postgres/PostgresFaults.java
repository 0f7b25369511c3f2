package org.wornladder.engine.postgres;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.postgresql.util.PSQLException;
import org.postgresql.util.ServerErrorMessage;
import org.wornladder.engine.Fault;
import org.wornladder.engine.Session;

/** What PostgreSQL's errors mean (manual, appendix A "Error Codes"). */
final class PostgresFaults {
  /** How the names begin of what we prepare on the server. */
  private static final List<String> PREPARED =
      List.of(PostgresInsertBuffer.PREPARED, PostgresTimingMarks.PREPARED);

  private PostgresFaults() {}

  static Fault of(SQLException e) {
    Optional<ServerErrorMessage> server =
        e instanceof PSQLException failure
            ? Optional.ofNullable(failure.getServerErrorMessage())
            : Optional.empty();
    return new Fault(kind(state(e), server), words(e, server));
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

  /** The message and the hint; the detail may hold values of rows. */
  private static String words(SQLException e, Optional<ServerErrorMessage> server) {
    if (server.isEmpty()) {
      return String.valueOf(e.getMessage()).strip();
    }
    String hint = server.get().getHint();
    return server.get().getMessage() + (hint == null ? "" : " (" + hint + ")");
  }
}
