package org.wornladder.project;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Texts that must not be shown. */
public final class Secrets {
  private static final String MASK = "***";

  private final List<String> texts;

  Secrets(List<String> secrets) {
    List<String> all = new ArrayList<>();
    for (String secret : secrets) {
      if (!secret.isEmpty()) {
        all.add(secret);
        all.add(secret.replace("'", "''"));
        all.add(secret.replace("\"", "\"\""));
      }
    }
    // The longest first: a secret may be part of another.
    all.sort(Comparator.comparingInt(String::length).reversed());
    texts = List.copyOf(all);
  }

  /** A text with three stars for every secret in it. */
  public String mask(String text) {
    String masked = text;
    for (String secret : texts) {
      masked = masked.replace(secret, MASK);
    }
    return masked;
  }

  @Override
  public String toString() {
    return MASK;
  }
}
