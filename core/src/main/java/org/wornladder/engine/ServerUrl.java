package org.wornladder.engine;

import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A server's address out of a JDBC URL or the engine's own URI, with the user and the password
 * taken out of it (RFC 3986, section 3; the drivers' manuals on connection URLs).
 *
 * @param jdbc for the driver; holds neither user nor password
 * @param shown host, port and database, for people
 */
public record ServerUrl(
    String jdbc, Optional<String> user, Optional<String> password, String shown) {
  private static final String LOCAL = "localhost/";

  /**
   * @param prefix how the driver's URLs begin, such as {@code jdbc:postgresql:}
   */
  public static ServerUrl of(String url, String prefix) {
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
    Credentials credentials = new Credentials();
    if (at >= 0) {
      credentials.userInfo(authority.substring(0, at));
    }
    List<String> kept = new ArrayList<>();
    if (question >= 0) {
      for (String parameter : rest.substring(question + 1).split("&")) {
        if (!credentials.parameter(parameter) && !parameter.isEmpty()) {
          kept.add(parameter);
        }
      }
    }
    String parameters = kept.isEmpty() ? "" : "?" + String.join("&", kept);
    return new ServerUrl(
        prefix + "//" + hosts + path + parameters,
        credentials.user,
        credentials.password,
        hosts + path);
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

  /** What a URL says of who connects. */
  private static final class Credentials {
    private Optional<String> user = Optional.empty();
    private Optional<String> password = Optional.empty();

    private void userInfo(String text) {
      int colon = text.indexOf(':');
      user = Optional.of(decoded(colon < 0 ? text : text.substring(0, colon)));
      if (colon >= 0) {
        password = Optional.of(decoded(text.substring(colon + 1)));
      }
    }

    /** Takes a parameter that is the user or the password; false for all others. */
    private boolean parameter(String parameter) {
      int equals = parameter.indexOf('=');
      String value = equals < 0 ? "" : decoded(parameter.substring(equals + 1));
      switch (equals < 0 ? "" : parameter.substring(0, equals).toLowerCase(Locale.ROOT)) {
        case "user" -> user = Optional.of(value);
        case "password" -> password = Optional.of(value);
        default -> {
          return false;
        }
      }
      return true;
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
