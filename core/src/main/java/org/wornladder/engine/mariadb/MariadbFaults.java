package org.wornladder.engine.mariadb;

import java.sql.SQLException;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.engine.Fault;
import org.wornladder.engine.Session;

/** What MariaDB's errors mean (MariaDB documentation, "MariaDB Error Codes"). */
final class MariadbFaults {
  private static final Pattern NEAR = Pattern.compile("(?s) near '(.*)' at line (\\d+)$");

  private MariadbFaults() {}

  static Fault of(SQLException e) {
    String message = message(e);
    String words = words(message);
    return new Fault(
        kind(e), words, words.equals(message) ? Optional.empty() : Optional.of(message));
  }

  /** Where the text that the parser did not understand begins, as far as its message repeats it. */
  static OptionalInt offset(String statement, SQLException e) {
    Matcher near = NEAR.matcher(message(e));
    if (!near.find()) {
      return OptionalInt.empty();
    }
    int line = 0;
    for (int next = 1; next < Integer.parseInt(near.group(2)); next++) {
      line = statement.indexOf('\n', line) + 1;
    }
    int offset = statement.indexOf(near.group(1), line);
    return OptionalInt.of(near.group(1).isEmpty() || offset < 0 ? line : offset);
  }

  private static Fault.Kind kind(SQLException e) {
    if (e.getErrorCode() == 1048 && e.getMessage().contains("'" + Session.ID_COLUMN + "'")) {
      return Fault.Kind.STRANDED;
    }
    return switch (e.getErrorCode()) {
      case 1205, 1213, 3572 -> Fault.Kind.BUSY;
      case 1969, 3024, 1317 -> Fault.Kind.TIMEOUT;
      case 1044, 1045, 1142, 1143, 1227, 1370 -> Fault.Kind.DENIED;
      case 1290, 1792, 1836 -> Fault.Kind.READ_ONLY;
      case 1021, 1114 -> Fault.Kind.FULL;
      case 1053, 1152, 1153, 1927, 2006, 2013 -> Fault.Kind.CUT;
      default -> state(e).startsWith("08") ? Fault.Kind.CUT : Fault.Kind.STATEMENT;
    };
  }

  static String state(SQLException e) {
    return e.getSQLState() == null ? "" : e.getSQLState();
  }

  /** The message without the driver's mark of the connection in front. */
  private static String message(SQLException e) {
    return String.valueOf(e.getMessage()).replaceFirst("^\\(conn=\\d+\\) ", "").strip();
  }

  /** A message without a row's key. */
  private static String words(String message) {
    return message.replaceFirst("(?s)^Duplicate entry '.*' for key", "Duplicate entry for key");
  }
}
