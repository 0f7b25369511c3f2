package org.wornladder.sql;

import java.util.List;
import java.util.StringJoiner;

/**
 * How an engine writes strings and names, as data.
 *
 * @param nameQuote the character around a quoted name, doubled inside
 * @param backslash whether a backslash escapes inside a string, so that it must be doubled
 */
public record Quoting(char nameQuote, boolean backslash) {
  /** An SQL string. */
  public String text(String text) {
    String doubled = text.replace("'", "''");
    return "'" + (backslash ? doubled.replace("\\", "\\\\") : doubled) + "'";
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
