package org.wornladder.engine.postgres;

import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Calendar;
import java.util.Optional;
import java.util.Properties;
import javax.crypto.Mac;
import org.postgresql.Driver;
import org.postgresql.PGProperty;
import org.postgresql.core.ServerVersion;
import org.wornladder.engine.Connecting;
import org.wornladder.engine.Connecting.Answer;
import org.wornladder.engine.ServerUrl;
import org.wornladder.engine.Target;
import org.wornladder.engine.UnreachableException;
import org.wornladder.project.Environment;

/** Opens connections to a PostgreSQL server. */
final class PostgresConnector {
  /** The oldest server that is served; the driver asks less at the start if it may rely on it. */
  private static final String OLDEST = "12";

  private final Target target;
  private final ServerUrl url;

  PostgresConnector(Target target) {
    this.target = target;
    url = ServerUrl.of(target.environment().url(), PostgresEngine.JDBC);
  }

  String shown() {
    return url.shown();
  }

  String where() {
    return "environment " + target.environment().name() + ", " + url.shown();
  }

  Connection connect() {
    return Connecting.patiently(target, url.shown(), this::attempt, PostgresConnector::answer);
  }

  UnreachableException failure(SQLException e) {
    return Connecting.failure(target, url.shown(), e, answer(e));
  }

  /** Loads the driver and what it proves a password with. */
  static void loadAhead() {
    try {
      Properties none = new Properties();
      // The driver reads version numbers and times by the locale's rules, which load slowly.
      boolean current = ServerVersion.v12.getVersionNum() > 0;
      Calendar.getInstance();
      if (current
          && new Driver().getPropertyInfo(PostgresEngine.JDBC + "//localhost/none", none).length
              > 0) {
        Mac.getInstance("HmacSHA256");
        MessageDigest.getInstance("SHA-256");
      }
    } catch (GeneralSecurityException | LinkageError e) {
      // Whoever connects next hears of it, with the place.
      return;
    }
  }

  private Connection attempt() throws SQLException {
    Environment environment = target.environment();
    Properties properties = new Properties();
    environment.user().or(url::user).ifPresent(user -> PGProperty.USER.set(properties, user));
    Optional<String> password = environment.password().or(url::password);
    password.ifPresent(text -> PGProperty.PASSWORD.set(properties, text));
    PGProperty.PREFER_QUERY_MODE.set(properties, "simple");
    PGProperty.ASSUME_MIN_SERVER_VERSION.set(properties, OLDEST);
    PGProperty.APPLICATION_NAME.set(properties, "worn-ladder");
    PGProperty.CONNECT_TIMEOUT.set(properties, Connecting.ANSWER_SECONDS);
    PGProperty.LOGIN_TIMEOUT.set(properties, Connecting.ANSWER_SECONDS);
    PGProperty.TCP_KEEP_ALIVE.set(properties, true);
    Connection connection = new Driver().connect(url.jdbc(), properties);
    if (connection == null) {
      throw new SQLException("the url is not one of PostgreSQL's", "08001");
    }
    return connection;
  }

  /** What a failure to connect means (PostgreSQL manual, appendix A "Error Codes"). */
  private static Answer answer(SQLException e) {
    return switch (PostgresFaults.state(e)) {
      case "28P01", "28000" -> Answer.WRONG_CREDENTIALS;
      case "3D000" -> Answer.NO_DATABASE;
      case "57P03", "53300", "08001", "08004", "08006", "57P01", "57P02" -> Answer.NOT_YET;
      default -> Answer.OTHER;
    };
  }
}
