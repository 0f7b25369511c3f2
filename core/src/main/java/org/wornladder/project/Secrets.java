package org.wornladder.project;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** Texts that must not be shown, in whatever letter case or encoding. */
public final class Secrets {
  private static final String MASK = "***";

  /** Matches nothing. */
  private static final Pattern NOTHING = Pattern.compile("(?!)");

  public static final Secrets NONE = new Secrets(List.of());

  private final Set<String> forms = new LinkedHashSet<>();
  private final Pattern pattern;

  Secrets(List<String> secrets) {
    for (String secret : secrets) {
      if (!secret.isEmpty()) {
        forms.addAll(forms(secret));
      }
    }
    // The longest first: a secret may be part of another.
    pattern =
        forms.isEmpty()
            ? NOTHING
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
    return replaced(text, found -> MASK);
  }

  /** Whether one of them is in a text. */
  public boolean isIn(String text) {
    return pattern != NOTHING && pattern.matcher(text).find();
  }

  /** A text with something else for every secret in it. */
  public String replaced(String text, UnaryOperator<String> substitute) {
    return pattern == NOTHING
        ? text
        : pattern
            .matcher(text)
            .replaceAll(found -> Matcher.quoteReplacement(substitute.apply(found.group())));
  }

  /** What databases may have made of them: their forms in statements, in either letter case. */
  public Set<String> spellings() {
    Set<String> all = new LinkedHashSet<>();
    for (String form : forms) {
      all.addAll(List.of(form, form.toLowerCase(Locale.ROOT), form.toUpperCase(Locale.ROOT)));
    }
    return all;
  }

  @Override
  public String toString() {
    return MASK;
  }
}
