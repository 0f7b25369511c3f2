package org.wornladder.project;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** Texts that must not be shown, in whatever letter case or encoding. */
public final class Secrets {
  private static final String MASK = "***";

  /** Matches nothing. */
  private static final Pattern NONE = Pattern.compile("(?!)");

  private final Pattern pattern;

  Secrets(List<String> secrets) {
    Set<String> forms = new LinkedHashSet<>();
    for (String secret : secrets) {
      if (!secret.isEmpty()) {
        forms.addAll(forms(secret));
      }
    }
    // The longest first: a secret may be part of another.
    pattern =
        forms.isEmpty()
            ? NONE
            : Pattern.compile(
                forms.stream()
                    .sorted(Comparator.comparingInt(String::length).reversed())
                    .map(Pattern::quote)
                    .collect(Collectors.joining("|")),
                Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
  }

  /** As it is, as strings and names of SQL write it, and as a URL does. */
  private static List<String> forms(String secret) {
    String encoded = URLEncoder.encode(secret, StandardCharsets.UTF_8);
    String escaped = secret.replace("\\", "\\\\");
    return List.of(
        secret,
        secret.replace("'", "''"),
        secret.replace("\"", "\"\""),
        escaped,
        escaped.replace("'", "''"),
        escaped.replace("'", "\\'"),
        escaped.replace("\"", "\\\""),
        encoded,
        encoded.replace("+", "%20"));
  }

  /** A text with three stars for every secret in it. */
  public String mask(String text) {
    return pattern == NONE ? text : pattern.matcher(text).replaceAll(MASK);
  }

  @Override
  public String toString() {
    return MASK;
  }
}
