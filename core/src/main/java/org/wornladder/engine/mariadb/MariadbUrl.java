package org.wornladder.engine.mariadb;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.wornladder.engine.ServerUrl;

/** Addresses of MariaDB and MySQL, as their own clients and as the driver write them. */
final class MariadbUrl {
  static final List<String> SCHEMES =
      List.of(MariadbEngine.JDBC, "jdbc:mysql:", "mariadb://", "mysql://", "mysql2://");

  private MariadbUrl() {}

  static ServerUrl of(String url) {
    return ServerUrl.of(url, MariadbEngine.JDBC, MariadbUrl::parameter);
  }

  /**
   * MySQL manual, "Connecting to the Server Using URI-Like Strings"; MariaDB Connector/J, "TLS
   * Parameters". The driver knows no PREFERRED: it is what it does without a word.
   */
  private static Optional<String> parameter(String name, String value) {
    String plain = name.toLowerCase(Locale.ROOT).replace("-", "").replace("_", "");
    return switch (plain) {
      case "sslmode" ->
          switch (value.toUpperCase(Locale.ROOT).replace('-', '_')) {
            case "DISABLED", "DISABLE" -> Optional.of("sslMode=disable");
            case "REQUIRED", "REQUIRE", "TRUST" -> Optional.of("sslMode=trust");
            case "VERIFY_CA" -> Optional.of("sslMode=verify-ca");
            case "VERIFY_IDENTITY", "VERIFY_FULL" -> Optional.of("sslMode=verify-full");
            case "PREFERRED", "PREFER" -> Optional.empty();
            default -> Optional.of("sslMode=" + value);
          };
      case "sslaccept" ->
          Optional.of(value.equals("strict") ? "sslMode=verify-full" : "sslMode=trust");
      case "sslca" -> Optional.of("serverSslCert=" + value);
      default -> Optional.of(name + "=" + value);
    };
  }
}
