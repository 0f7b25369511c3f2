package org.wornladder.engine.document;

import com.mongodb.MongoBulkWriteException;
import com.mongodb.MongoCommandException;
import com.mongodb.MongoException;
import com.mongodb.MongoNodeIsRecoveringException;
import com.mongodb.MongoNotPrimaryException;
import com.mongodb.MongoSecurityException;
import com.mongodb.MongoSocketException;
import com.mongodb.MongoTimeoutException;
import com.mongodb.MongoWriteException;
import java.sql.SQLException;
import java.util.Map;
import java.util.Set;
import org.wornladder.engine.ConnectionAttempts.Answer;
import org.wornladder.engine.Fault;

/**
 * What the driver throws, as the rest of the program knows failures of databases: with the class of
 * SQLSTATE that means the same (ISO/IEC 9075-2, 24.1).
 */
final class DocumentErrors {
  private static final String CUT = "08006";
  private static final String NO_ANSWER = "08001";
  private static final String CREDENTIALS = "28000";
  private static final String DENIED = "42501";
  private static final String STATEMENT = "42000";
  private static final String BUSY = "40001";
  private static final String TIMEOUT = "57014";
  private static final String FULL = "53100";

  private static final int UNKNOWN_COMMAND = 59;

  /**
   * TransactionTooLarge, OperationNotSupportedInTransaction and
   * TransactionExceededLifetimeLimitSeconds.
   */
  private static final Set<Integer> LIMITS_OF_TRANSACTIONS = Set.of(257, 263, 290);

  /** By the numbers of the protocol's error codes (its source, "error_codes.yml"). */
  private static final Map<Integer, String> STATES =
      Map.of(
          13,
          DENIED,
          18,
          CREDENTIALS,
          33,
          DENIED,
          50,
          TIMEOUT,
          112,
          BUSY,
          24,
          BUSY,
          14031,
          FULL,
          6,
          CUT,
          7,
          CUT,
          89,
          CUT);

  private DocumentErrors() {}

  /** The same failure as an {@link SQLException}. */
  static SQLException sql(MongoException e) {
    if (e instanceof MongoSecurityException) {
      return new SQLException(words(e), CREDENTIALS, e.getCode(), e);
    }
    if (e instanceof MongoTimeoutException) {
      return new SQLException(
          "no server of the deployment answers as its primary", NO_ANSWER, e.getCode(), e);
    }
    // Whether the commit took effect shows when the journal is read again.
    boolean cut =
        e.hasErrorLabel(MongoException.UNKNOWN_TRANSACTION_COMMIT_RESULT_LABEL)
            || e instanceof MongoSocketException
            || e instanceof MongoNotPrimaryException
            || e instanceof MongoNodeIsRecoveringException;
    if (cut) {
      return new SQLException(words(e), CUT, e.getCode(), e);
    }
    if (LIMITS_OF_TRANSACTIONS.contains(e.getCode())) {
      String outside = "; \"run\": \"outside-transaction\" in the rung runs it without one";
      return new SQLException(words(e) + outside, STATEMENT, e.getCode(), e);
    }
    boolean again = e.hasErrorLabel(MongoException.TRANSIENT_TRANSACTION_ERROR_LABEL);
    String state = again ? BUSY : STATES.getOrDefault(e.getCode(), STATEMENT);
    return new SQLException(words(e), state, e.getCode(), e);
  }

  private static String words(MongoException e) {
    if (e instanceof MongoCommandException command) {
      return command.getErrorMessage();
    }
    if (e instanceof MongoWriteException write) {
      return write.getError().getMessage();
    }
    if (e instanceof MongoBulkWriteException bulk && !bulk.getWriteErrors().isEmpty()) {
      return bulk.getWriteErrors().get(0).getMessage();
    }
    Throwable cause = e instanceof MongoSecurityException ? e.getCause() : null;
    return cause instanceof MongoCommandException refused
        ? refused.getErrorMessage()
        : String.valueOf(e.getMessage());
  }

  /** Whether the server does not know a command at all. */
  static boolean isUnknownCommand(SQLException e) {
    return e.getErrorCode() == UNKNOWN_COMMAND;
  }

  /** What a failure to connect means. */
  static Answer answer(SQLException e) {
    return switch (String.valueOf(e.getSQLState())) {
      case CREDENTIALS -> Answer.WRONG_CREDENTIALS;
      case NO_ANSWER, CUT -> Answer.NOT_YET;
      default -> Answer.OTHER;
    };
  }

  /** What a failure means of a session that is open. */
  static Fault.Kind kind(SQLException e) {
    return switch (String.valueOf(e.getSQLState())) {
      case CUT, NO_ANSWER -> Fault.Kind.CUT;
      case CREDENTIALS, DENIED -> Fault.Kind.DENIED;
      case BUSY -> Fault.Kind.BUSY;
      case TIMEOUT -> Fault.Kind.TIMEOUT;
      case FULL -> Fault.Kind.FULL;
      default -> Fault.Kind.STATEMENT;
    };
  }
}
