package org.wornladder.engine.postgres;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.Optional;
import java.util.Properties;
import org.postgresql.Driver;
import org.postgresql.PGProperty;
import org.wornladder.UnreachableException;
import org.wornladder.engine.Access;
import org.wornladder.engine.ConnectionAttempts;
import org.wornladder.engine.ConnectionAttempts.Answer;
import org.wornladder.engine.ServerUrl;
import org.wornladder.engine.Target;
import org.wornladder.project.Environment;

/** Opens connections to a PostgreSQL server. */
final class PostgresConnector {
  /** The oldest server that is served; the driver asks less at the start if it may rely on it. */
  private static final String OLDEST = "12";

  /** {@code invalid_parameter_value} (manual, appendix A "Error Codes"). */
  private static final String INVALID_VALUE = "22023";

  private final Target target;
  private final ServerUrl url;

  PostgresConnector(Target target) {
    this.target = target;
    url = PostgresUrl.of(target.environment().url());
  }

  String shown() {
    return url.shown();
  }

  String where() {
    return "environment " + target.environment().name() + ", " + url.shown();
  }

  Connection connect(Access access) {
    return ConnectionAttempts.patiently(
        target,
        url.shown(),
        access,
        this::attempt,
        PostgresBorrowed::note,
        PostgresConnector::answer);
  }

  UnreachableException failure(SQLException e) {
    return ConnectionAttempts.failure(target, url.shown(), e, answer(e));
  }

  private Connection attempt() throws SQLException {
    Environment environment = target.environment();
    Properties properties = new Properties();
    String user = environment.user().or(url::user).orElseGet(() -> System.getProperty("user.name"));
    PGProperty.USER.set(properties, user);
    Optional<String> password = environment.password().or(url::password);
    password.ifPresent(text -> PGProperty.PASSWORD.set(properties, text));
    PGProperty.PREFER_QUERY_MODE.set(properties, "simple");
    PGProperty.ASSUME_MIN_SERVER_VERSION.set(properties, OLDEST);
    PGProperty.APPLICATION_NAME.set(properties, "worn-ladder");
    PGProperty.CONNECT_TIMEOUT.set(properties, ConnectionAttempts.ANSWER_SECONDS);
    PGProperty.TCP_KEEP_ALIVE.set(properties, true);
    Properties own = Driver.parseURL(url.jdbc(), new Properties());
    if (own == null) {
      throw new SQLException("the url is not one of PostgreSQL's", INVALID_VALUE);
    }
    // While it connects a server must answer soon; afterwards a statement may take its time.
    PGProperty.SOCKET_TIMEOUT.set(properties, ConnectionAttempts.ANSWER_SECONDS);
    Connection connection = new Driver().connect(url.jdbc(), properties);
    connection.setNetworkTimeout(Runnable::run, PGProperty.SOCKET_TIMEOUT.getInt(own) * 1000);
    return connection;
  }

  /** What a failure to connect means (PostgreSQL manual, appendix A "Error Codes"). */
  private static Answer answer(SQLException e) {
    return switch (PostgresFaults.state(e)) {
      case "28P01", "28000" -> Answer.WRONG_CREDENTIALS;
      case "3D000" -> Answer.NO_DATABASE;
      case "57P03", "53300", "57P01", "57P02" -> Answer.NOT_YET;
      case "08001", "08006" -> ConnectionAttempts.isOfTheNetwork(e) ? Answer.NOT_YET : Answer.OTHER;
      default -> Answer.OTHER;
    };
  }
}
