package org.wornladder.engine.postgres;

import java.util.Map;
import java.util.Optional;
import org.wornladder.engine.ServerUrl;

/** Addresses of PostgreSQL, as its own clients and as its driver write them. */
final class PostgresUrl {
  /**
   * The manual, "Parameter Key Words", beside the driver's documentation, "Connection Parameters".
   */
  private static final Map<String, String> NAMES =
      Map.of(
          "application_name", "ApplicationName",
          "channel_binding", "channelBinding",
          "connect_timeout", "connectTimeout",
          "gssencmode", "gssEncMode",
          "keepalives", "tcpKeepAlive");

  private static final Map<String, String> VALUES =
      Map.of(
          "sslmode=no-verify", "sslmode=require",
          "tcpKeepAlive=1", "tcpKeepAlive=true",
          "tcpKeepAlive=0", "tcpKeepAlive=false",
          "target_session_attrs=any", "targetServerType=any",
          "target_session_attrs=read-write", "targetServerType=primary",
          "target_session_attrs=primary", "targetServerType=primary",
          "target_session_attrs=standby", "targetServerType=secondary",
          "target_session_attrs=prefer-standby", "targetServerType=preferSecondary");

  private PostgresUrl() {}

  static ServerUrl of(String url) {
    return ServerUrl.of(url, PostgresEngine.JDBC, PostgresUrl::parameter);
  }

  private static Optional<String> parameter(String name, String value) {
    String named = NAMES.getOrDefault(name, name) + "=" + value;
    return Optional.of(VALUES.getOrDefault(named, named));
  }
}
