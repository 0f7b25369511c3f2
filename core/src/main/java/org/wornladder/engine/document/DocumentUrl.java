package org.wornladder.engine.document;

import com.mongodb.ConnectionString;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import org.wornladder.project.Environment;

/** The url of an environment as the driver reads it (the manual's "Connection Strings"). */
final class DocumentUrl {
  private static final String BEHIND_SCHEME = "://";

  private DocumentUrl() {}

  /**
   * The url with the user that the settings name, so that what else it says of the authentication
   * ({@code authSource}, {@code authMechanism}) counts for that one.
   *
   * @throws IllegalArgumentException if the driver cannot read it
   * @throws SQLException if it does not name one database alone
   */
  static ConnectionString of(Environment environment) throws SQLException {
    ConnectionString url =
        environment.user().isEmpty()
            ? new ConnectionString(environment.url())
            : withUser(environment);
    if (url.getDatabase() == null) {
      throw new SQLException("the url names no database: write it behind the host, as in /harvest");
    }
    if (url.getCollection() != null) {
      throw new SQLException(
          "the url names a collection: "
              + url.getDatabase()
              + "."
              + url.getCollection()
              + " is no name of a database");
    }
    return url;
  }

  private static ConnectionString withUser(Environment environment) {
    String user = encoded(environment.user().orElseThrow());
    // Without a password where there is none: some mechanisms refuse even an empty one.
    String password = environment.password().map(one -> ":" + encoded(one)).orElse("");
    return new ConnectionString(with(user + password, environment.url()));
  }

  private static String with(String user, String url) {
    int start = url.indexOf(BEHIND_SCHEME) + BEHIND_SCHEME.length();
    int end = start;
    while (end < url.length() && url.charAt(end) != '/' && url.charAt(end) != '?') {
      end++;
    }
    String hosts = url.substring(Math.max(start, url.lastIndexOf('@', end) + 1), end);
    return url.substring(0, start) + user + "@" + hosts + url.substring(end);
  }

  private static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
  }
}
