package org.wornladder.sql;

import java.util.List;
import java.util.StringJoiner;

/**
 * How an engine writes strings and names, as data.
 *
 * @param nameQuote the character around a quoted name, doubled inside
 * @param backslash what a backslash means inside a string
 */
public record Quoting(char nameQuote, Backslash backslash) {
  /** What a backslash means inside a string. */
  public enum Backslash {
    /** Itself. */
    PLAIN,
    /** It escapes what follows. */
    ESCAPES,
    /**
     * A setting decides, so that a string with one is written in a form that no setting reads
     * otherwise (PostgreSQL manual, 4.1.2.2 "String Constants with C-Style Escapes").
     */
    BY_SETTING
  }

  /** An SQL string. */
  public String text(String text) {
    String doubled = text.replace("'", "''");
    if (backslash == Backslash.PLAIN || text.indexOf('\\') < 0) {
      return "'" + doubled + "'";
    }
    // The blank keeps the letter apart from a word in front of it.
    String opening = backslash == Backslash.BY_SETTING ? " E'" : "'";
    return opening + doubled.replace("\\", "\\\\") + "'";
  }

  /** A quoted name. */
  public String name(String name) {
    String quote = String.valueOf(nameQuote);
    return quote + name.replace(quote, quote + quote) + quote;
  }

  /**
   * The offset behind the quoted name that begins at another one; -1 if none does, or never ends.
   */
  public int nameEnd(String text, int at) {
    boolean begins = at < text.length() && text.charAt(at) == nameQuote;
    return begins ? Scan.quoted(text, at, false) : -1;
  }

  /** Quoted names, with a comma and a blank between them. */
  public String names(List<String> names) {
    StringJoiner all = new StringJoiner(", ");
    for (String name : names) {
      all.add(name(name));
    }
    return all.toString();
  }
}
