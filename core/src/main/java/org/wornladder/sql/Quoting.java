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

  /** Quoted names, with a comma and a blank between them. */
  public String names(List<String> names) {
    StringJoiner all = new StringJoiner(", ");
    for (String name : names) {
      all.add(name(name));
    }
    return all.toString();
  }
}
