package org.wornladder.engine;

import java.sql.SQLException;
import org.wornladder.Advice;
import org.wornladder.LadderException;
import org.wornladder.LockWaitException;
import org.wornladder.UnreachableException;

/** Turns what a driver throws, outside of a script's statements, into what a person can act on. */
public final class DatabaseErrors {
  private DatabaseErrors() {}

  /**
   * What an exception says, and the last of those chained to it, which some drivers say more in.
   */
  public static String message(SQLException e) {
    SQLException last = e;
    while (last.getNextException() != null) {
      last = last.getNextException();
    }
    String first = String.valueOf(e.getMessage()).strip();
    String more = String.valueOf(last.getMessage()).strip();
    return last == e || first.contains(more) ? first : first + " " + more;
  }

  /**
   * @param doing what was being done, as it follows "while": "reading the journal"
   */
  public static LadderException translate(
      Session session, String environment, String doing, SQLException e) {
    Fault fault = session.fault(e);
    String where = "environment " + environment + ", " + session.address();
    return switch (fault.kind()) {
      case BUSY ->
          new LockWaitException(
              "another program held the database too long, while " + doing,
              where,
              Advice.of(Advice.Code.WAIT_LONGER));
      case READ_ONLY ->
          new UnreachableException(
              "the database is read-only",
              where,
              "see who may write it, and the url's parameters",
              e);
      case FULL ->
          new UnreachableException(
              "the disk is full, while " + doing, where, "make room, then run it again", e);
      case TIMEOUT ->
          new LockWaitException(
              "the database gave up after the time that statement-timeout allows, while " + doing,
              where,
              "run it again, or give it longer in ladder.yaml");
      case CUT ->
          new UnreachableException(
              "the connection was cut while " + doing,
              where,
              Advice.of(Advice.Code.SHOW_STATUS_THEN_RUN_AGAIN, environment),
              e);
      case STRANDED ->
          new UnreachableException(
              "the server's session changed while "
                  + doing
                  + ": something in between deals sessions"
                  + " out anew (a transaction pooler)",
              where,
              "name the server itself in the url, or a pool in session mode",
              e);
      case TAKEN_OVER ->
          new LockWaitException(
              fault.message() + ", because this process gave no sign of life, while " + doing,
              where,
              Advice.of(Advice.Code.SHOW_STATUS_THEN_RUN_AGAIN, environment));
      case DENIED ->
          new UnreachableException(
              "the database's user may not do that, while " + doing + ": " + fault.message(),
              where,
              "grant it, or connect as another user",
              e);
      default ->
          new UnreachableException(
              "the database failed while " + doing + ": " + fault.message(), where, "", e);
    };
  }
}
