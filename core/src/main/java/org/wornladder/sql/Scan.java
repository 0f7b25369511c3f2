package org.wornladder.sql;

/**
 * Small steps over SQL text. Each takes a text and the offset where an object opens and returns the
 * offset behind it; -1 says that it never ends.
 */
final class Scan {
  private static final String OPERATORS = "+-*/<>=~!@#%^&|`?:";

  private Scan() {}

  static boolean isBlank(char c) {
    return c <= ' ' || c == '\uFEFF';
  }

  static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }

  static boolean startsWord(char c) {
    return (c >= 'a' && c <= 'z')
        || (c >= 'A' && c <= 'Z')
        || c == '_'
        || (c >= 0x80 && c != '\uFEFF');
  }

  static boolean continuesWord(char c) {
    return startsWord(c) || isDigit(c) || c == '$';
  }

  static int blanks(String text, int at) {
    int i = at;
    while (i < text.length() && isBlank(text.charAt(i))) {
      i++;
    }
    return i;
  }

  static int word(String text, int at) {
    int i = at;
    while (i < text.length() && continuesWord(text.charAt(i))) {
      i++;
    }
    return i;
  }

  /**
   * Digits, letters, points and a signed exponent; two points in a row are a range, not a number.
   */
  static int number(String text, int at) {
    boolean hex = text.startsWith("0x", at) || text.startsWith("0X", at);
    int i = at;
    while (i < text.length()) {
      char c = text.charAt(i);
      boolean point = c == '.' && !text.startsWith("..", i);
      boolean sign = (c == '+' || c == '-') && !hex && i > at && (text.charAt(i - 1) | 0x20) == 'e';
      if (!startsWord(c)
          && !isDigit(c)
          && !point
          && !(sign && i + 1 < text.length() && isDigit(text.charAt(i + 1)))) {
        break;
      }
      i++;
    }
    return i;
  }

  /** To the line end, which is not part of it. */
  static int line(String text, int at) {
    int end = text.indexOf('\n', at);
    if (end < 0) {
      return text.length();
    }
    return end > at && text.charAt(end - 1) == '\r' ? end - 1 : end;
  }

  static int blockComment(String text, int at, boolean nested) {
    int depth = 1;
    int i = at + 2;
    while (i + 1 < text.length()) {
      char c = text.charAt(i);
      if (c == '*' && text.charAt(i + 1) == '/') {
        i += 2;
        if (--depth == 0) {
          return i;
        }
      } else if (nested && c == '/' && text.charAt(i + 1) == '*') {
        i += 2;
        depth++;
      } else {
        i++;
      }
    }
    return -1;
  }

  /** A quote that is doubled inside, and escaped by a backslash where {@code backslash} says so. */
  static int quoted(String text, int at, boolean backslash) {
    char quote = text.charAt(at);
    int i = at + 1;
    while (i < text.length()) {
      char c = text.charAt(i);
      if (c == quote) {
        if (i + 1 < text.length() && text.charAt(i + 1) == quote) {
          i += 2;
          continue;
        }
        return i + 1;
      }
      i += backslash && c == '\\' ? 2 : 1;
    }
    return -1;
  }

  static int bracketed(String text, int at) {
    int close = text.indexOf(']', at);
    return close < 0 ? -1 : close + 1;
  }

  /** The offset behind the opening {@code $tag$}; {@code at} itself where none opens here. */
  static int dollarTag(String text, int at) {
    int i = at + 1;
    while (i < text.length() && text.charAt(i) != '$' && continuesWord(text.charAt(i))) {
      i++;
    }
    boolean digitFirst = i > at + 1 && isDigit(text.charAt(at + 1));
    return i < text.length() && text.charAt(i) == '$' && !digitFirst ? i + 1 : at;
  }

  static int dollarQuoted(String text, int at, int tagEnd) {
    String tag = text.substring(at, tagEnd);
    int close = text.indexOf(tag, tagEnd);
    return close < 0 ? -1 : close + tag.length();
  }

  /**
   * A run of operator characters, which stops before a comment and gives back a trailing sign as
   * PostgreSQL does (manual, 4.1.3 "Operators"); any other character by itself.
   */
  static int mark(String text, int at) {
    if (OPERATORS.indexOf(text.charAt(at)) < 0) {
      return at + 1;
    }
    int i = at + 1;
    boolean special = isSpecial(text.charAt(at));
    while (i < text.length() && OPERATORS.indexOf(text.charAt(i)) >= 0) {
      if (text.startsWith("--", i) || text.startsWith("/*", i)) {
        break;
      }
      special |= isSpecial(text.charAt(i));
      i++;
    }
    while (!special && i > at + 1 && (text.charAt(i - 1) == '-' || text.charAt(i - 1) == '+')) {
      i--;
    }
    return i;
  }

  private static boolean isSpecial(char c) {
    return "~!@#%^&|`?".indexOf(c) >= 0;
  }

  /** Rows up to and with the line that holds {@code \.} alone, or to the end of the text. */
  static int loadData(String text, int at) {
    int i = at;
    while (i < text.length()) {
      int end = line(text, i);
      boolean last = end - i == 2 && text.startsWith("\\.", i);
      int next = text.indexOf('\n', end);
      if (last) {
        return end;
      }
      i = next < 0 ? text.length() : next + 1;
    }
    return i;
  }
}
