package org.wornladder.engine;

import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiFunction;

/**
 * A server's address out of a JDBC URL or the engine's own URI, with the user and the password
 * taken out of it, and the parameters of other clients under the driver's names (RFC 3986, section
 * 3; the drivers' manuals on connection URLs; PostgreSQL manual, "Connection URIs").
 *
 * @param jdbc for the driver; holds neither user nor password
 * @param shown host, port and database, for people
 */
public record ServerUrl(
    String jdbc, Optional<String> user, Optional<String> password, String shown) {
  private static final String LOCAL = "localhost/";

  /**
   * @param prefix how the driver's URLs begin, such as {@code jdbc:postgresql:}
   * @param driver gives a parameter the driver's name and value; empty for what it needs not know
   */
  public static ServerUrl of(
      String url, String prefix, BiFunction<String, String, Optional<String>> driver) {
    int slashes = url.indexOf("//");
    String rest =
        slashes >= 0 ? url.substring(slashes + 2) : LOCAL + url.substring(url.lastIndexOf(':') + 1);
    int question = rest.indexOf('?');
    String place = question < 0 ? rest : rest.substring(0, question);
    int slash = place.indexOf('/');
    String authority = slash < 0 ? place : place.substring(0, slash);
    String path = slash < 0 ? "/" : place.substring(slash);
    int at = authority.lastIndexOf('@');
    String hosts = authority.substring(at + 1);
    Parameters found = new Parameters();
    if (at >= 0) {
      found.userInfo(authority.substring(0, at));
    }
    List<String> kept = new ArrayList<>();
    if (question >= 0) {
      for (String parameter : rest.substring(question + 1).split("&")) {
        int equals = parameter.indexOf('=');
        String name = equals < 0 ? parameter : parameter.substring(0, equals);
        String value = parameter.substring(equals + 1);
        if (equals < 0) {
          kept.add(parameter);
        } else if (!found.parameter(name, value)) {
          driver.apply(name, value).ifPresent(kept::add);
        }
      }
    }
    hosts = found.hosts(hosts);
    kept.removeIf(String::isEmpty);
    String parameters = kept.isEmpty() ? "" : "?" + String.join("&", kept);
    return new ServerUrl(
        prefix + "//" + hosts + path + parameters, found.user, found.password, hosts + path);
  }

  /** Whether a URL begins with one of these. No stream: linking one delays every start. */
  public static boolean begins(String url, List<String> schemes) {
    for (String scheme : schemes) {
      if (url.startsWith(scheme)) {
        return true;
      }
    }
    return false;
  }

  /** What a URL says of who connects, and what its parameters say of the server. */
  private static final class Parameters {
    private Optional<String> host = Optional.empty();
    private Optional<String> port = Optional.empty();
    private Optional<String> user = Optional.empty();
    private Optional<String> password = Optional.empty();

    private void userInfo(String text) {
      int colon = text.indexOf(':');
      user = Optional.of(decoded(colon < 0 ? text : text.substring(0, colon)));
      if (colon >= 0) {
        password = Optional.of(decoded(text.substring(colon + 1)));
      }
    }

    /** Takes a parameter that is the user, the password or the server; false for all others. */
    private boolean parameter(String name, String value) {
      switch (name.toLowerCase(Locale.ROOT)) {
        case "user" -> user = Optional.of(decoded(value));
        case "password" -> password = Optional.of(decoded(value));
        case "host" -> host = Optional.of(decoded(value));
        case "port" -> port = Optional.of(decoded(value));
        default -> {
          return false;
        }
      }
      return true;
    }

    /** The hosts of the URL, or those of its parameters where it has none. */
    private String hosts(String authority) {
      if (!authority.isEmpty() || host.isEmpty() && port.isEmpty()) {
        return authority;
      }
      return host.orElse("localhost") + port.map(number -> ":" + number).orElse("");
    }

    private static String decoded(String text) {
      try {
        // A plus sign means itself in a URI.
        return URLDecoder.decode(text.replace("+", "%2B"), StandardCharsets.UTF_8);
      } catch (IllegalArgumentException e) {
        // A percent sign that encodes nothing is meant as it is.
        return text;
      }
    }
  }
}
