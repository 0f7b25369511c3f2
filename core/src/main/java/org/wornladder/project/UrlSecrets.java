package org.wornladder.project;

import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Passwords that are in a URL: behind the user, or as a parameter. */
public final class UrlSecrets {
  private static final Pattern PASSWORD =
      Pattern.compile(
          // What stands behind the user may hold every mark; a port is no password.
          "//[^/?#@:]*:(?!\\d+(?:[/?;]|$))(?<behind>.*)@(?=[\\w.\\-:,\\[\\]]*(?:[/?;]|$))|[?&;](?:ssl|trustStore|keyStore)?password=(?<parameter>[^&;]*)",
          Pattern.CASE_INSENSITIVE);

  private static final int SHORTEST_PART = 4;

  private UrlSecrets() {}

  /** The password that a URL names, as it is meant; empty if it names none. */
  public static Optional<String> password(String url) {
    List<String> secrets = in(url);
    return secrets.size() < 2 ? Optional.empty() : Optional.of(secrets.get(1));
  }

  /** Each as it is there, and as it is meant. */
  static List<String> in(String url) {
    List<String> secrets = new ArrayList<>();
    Matcher matcher = PASSWORD.matcher(url);
    while (matcher.find()) {
      String behind = matcher.group("behind");
      String secret = behind == null ? matcher.group("parameter") : behind;
      secrets.add(secret);
      secrets.add(meant(secret));
      // A driver that takes a mark in it for the end of a part repeats the rest.
      for (String part : secret.split("[/?#@:;&]")) {
        if (part.length() >= SHORTEST_PART) {
          secrets.add(part);
        }
      }
    }
    return secrets;
  }

  private static String meant(String text) {
    try {
      return URLDecoder.decode(text.replace("+", "%2B"), StandardCharsets.UTF_8);
    } catch (IllegalArgumentException e) {
      return text;
    }
  }
}
