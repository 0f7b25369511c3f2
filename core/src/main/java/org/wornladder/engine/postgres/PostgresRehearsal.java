package org.wornladder.engine.postgres;

import java.security.MessageDigest;
import java.util.List;
import java.util.Properties;
import org.postgresql.Driver;
import org.postgresql.core.Parser;
import org.postgresql.core.v3.QueryExecutorImpl;
import org.postgresql.jdbc.PgConnection;
import org.postgresql.jdbc.PgResultSet;
import org.postgresql.jdbc.PgStatement;
import org.postgresql.jdbc.TimestampUtils;
import org.postgresql.jdbc.TypeInfoCache;
import org.postgresql.shaded.com.ongres.scram.client.ScramClient;
import org.postgresql.shaded.com.ongres.scram.common.exception.ScramException;
import org.wornladder.engine.Meanwhile;

/**
 * What the driver does for the first connection alone, done ahead and with nobody: to load it all
 * takes longer than to connect.
 */
final class PostgresRehearsal {
  /** As many as make the compiler take notice; the proof of a password takes some thousands. */
  private static final int BLOCKS = 250;

  /** Bytes (FIPS 180-4, section 1). */
  private static final int BLOCK = 64;

  private static final int ROUNDS = 60;

  private static final String MECHANISM = "SCRAM-SHA-256";

  private PostgresRehearsal() {}

  /**
   * To be run on a thread of its own, beside which it begins another. What does not work here is
   * told by whoever connects next.
   *
   * @param settings the text of the project's; without a password in it, none is proven
   */
  static void run(String settings) {
    if (holdsPassword(settings)) {
      Meanwhile.begin(() -> attempt(PostgresRehearsal::greeting));
    }
    attempt(PostgresRehearsal::connection);
  }

  private interface Part {
    void run() throws Exception;
  }

  private static boolean attempt(Part part) {
    try {
      part.run();
      return true;
    } catch (Exception | LinkageError e) {
      // Not our business yet, whatever this Java or its settings do not allow.
      return false;
    }
  }

  /** What a connection needs itself, in order. */
  private static void connection() throws Exception {
    Properties none = Driver.parseURL(PostgresEngine.JDBC + "//localhost/none", new Properties());
    if (none != null) {
      for (Class<?> used : used()) {
        Class.forName(used.getName());
      }
      Parser.parseJdbcSql("SELECT 1", true, true, true, true, true);
    }
  }

  /** The classes that take longest to load. */
  private static List<Class<?>> used() {
    return List.of(
        PgConnection.class,
        TimestampUtils.class,
        QueryExecutorImpl.class,
        TypeInfoCache.class,
        PgStatement.class,
        PgResultSet.class);
  }

  /**
   * What it says to the server, and answers, first what the compiler shall be done with in time.
   */
  private static void greeting() throws Exception {
    MessageDigest.getInstance("SHA-256").digest(new byte[BLOCKS * BLOCK]);
    proof();
  }

  /** Whether one is named, or stands in a URL between a colon and an at sign. */
  static boolean holdsPassword(String settings) {
    boolean colon = false;
    for (int i = 0; i < settings.length(); i++) {
      char sign = settings.charAt(i);
      if (sign == ':' && !settings.startsWith("://", i)) {
        colon = true;
      } else if (sign == '@' && colon) {
        return true;
      } else if (sign == '/' || Character.isWhitespace(sign)) {
        colon = false;
      }
    }
    return settings.contains("password");
  }

  /**
   * Proves a password to a server that is played (RFC 5802, section 5), so that the rounds which a
   * real one asks for run compiled from the first.
   */
  private static void proof() throws ScramException {
    ScramClient client =
        ScramClient.builder()
            .advertisedMechanisms(List.of(MECHANISM))
            .username("*")
            .password(new char[] {' '})
            .build();
    String first = client.clientFirstMessage().toString();
    String nonce = first.substring(first.indexOf("r="));
    client.serverFirstMessage(nonce + "0,s=AAAAAAAAAAAAAAAAAAAAAA==,i=" + ROUNDS);
    client.clientFinalMessage();
  }
}
