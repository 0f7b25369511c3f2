package org.wornladder.journal;

import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Which entry is the journal's last.
 *
 * @param number the entry's; 0 while there is none
 * @param hash the entry's; empty while there is none
 */
public record JournalHead(long number, String hash) {
  static final JournalHead NONE = new JournalHead(0, "");

  private static final Pattern TEXT = Pattern.compile("(\\d{1,18}):([0-9a-f]{64})");

  /** The number and the hash with a colon between them, to be kept elsewhere. */
  public String text() {
    return number + ":" + hash;
  }

  /** What {@link #text} wrote; empty for any other text. */
  public static Optional<JournalHead> parse(String text) {
    Matcher parts = TEXT.matcher(text.strip());
    return parts.matches()
        ? Optional.of(new JournalHead(Long.parseLong(parts.group(1)), parts.group(2)))
        : Optional.empty();
  }
}
