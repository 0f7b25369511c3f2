package org.wornladder.cli.view;

import org.jline.utils.WCWidth;

/** Text from files and databases, made safe to show: control characters are shown, not obeyed. */
public final class SafeText {
  private SafeText() {}

  /** One line: line ends and tabs are shown too. */
  public static String line(String text) {
    return clean(text, false);
  }

  /** Several lines: line ends and tabs stay. */
  static String lines(String text) {
    return clean(text.replace("\r\n", "\n"), true);
  }

  private static String clean(String text, boolean keepLines) {
    StringBuilder out = null;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (isHarmful(c) && !(keepLines && (c == '\n' || c == '\t'))) {
        if (out == null) {
          out = new StringBuilder(text.length() + 8).append(text, 0, i);
        }
        out.append(shown(c));
      } else if (out != null) {
        out.append(c);
      }
    }
    return out == null ? text : out.toString();
  }

  /** Control characters, and those that turn the direction of writing. */
  private static boolean isHarmful(char c) {
    return (c < 0x20 || c >= 0x7f) && isControl(c);
  }

  private static boolean isControl(char c) {
    return c < 0xa0
        || (c >= 0x202a && c <= 0x202e)
        || (c >= 0x2066 && c <= 0x2069)
        || c == 0x200e
        || c == 0x200f;
  }

  private static String shown(char c) {
    return switch (c) {
      case '\n' -> "\\n";
      case '\r' -> "\\r";
      case '\t' -> "\\t";
      default -> "\\u" + hex(c);
    };
  }

  private static String hex(char c) {
    String digits = Integer.toHexString(c);
    return "0".repeat(4 - digits.length()) + digits;
  }

  /** How many columns of a terminal a cleaned line takes. */
  static int width(String text) {
    int width = 0;
    for (int i = 0; i < text.length(); ) {
      int c = text.codePointAt(i);
      width += c < 0x300 ? 1 : Math.max(0, WCWidth.wcwidth(c));
      i += Character.charCount(c);
    }
    return width;
  }

  /** A cleaned line cut to a width, with an ellipsis where it was cut. */
  static String cut(String text, int width, String ellipsis) {
    if (width(text) <= width) {
      return text;
    }
    StringBuilder out = new StringBuilder();
    int room = width - ellipsis.length();
    int taken = 0;
    for (int i = 0; i < text.length(); ) {
      int c = text.codePointAt(i);
      taken += width(Character.toString(c));
      if (taken > room) {
        break;
      }
      out.appendCodePoint(c);
      i += Character.charCount(c);
    }
    return out.toString().stripTrailing() + ellipsis;
  }

  /** A cleaned line with blanks behind it up to a width. */
  static String pad(String text, int width) {
    return text + " ".repeat(Math.max(0, width - width(text)));
  }
}
