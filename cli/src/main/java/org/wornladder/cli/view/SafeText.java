package org.wornladder.cli.view;

import java.util.HexFormat;
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
    StringBuilder out = new StringBuilder(text.length());
    for (char c : text.toCharArray()) {
      boolean kept = keepLines && (c == '\n' || c == '\t');
      out.append(isHarmful(c) && !kept ? shown(c) : String.valueOf(c));
    }
    return out.toString();
  }

  /** Control characters, and those that turn the direction of writing. */
  private static boolean isHarmful(char c) {
    return c < 0x20
        || (c >= 0x7f && c < 0xa0)
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
      default -> "\\u" + HexFormat.of().toHexDigits(c);
    };
  }

  /** How many columns of a terminal a safe line takes, without its colours. */
  static int width(String text) {
    int width = 0;
    for (int i = 0; i < text.length(); ) {
      int c = text.codePointAt(i);
      if (c == Colors.ESCAPE) {
        i = text.indexOf('m', i) + 1;
        continue;
      }
      width += c < 0x300 ? 1 : Math.max(0, WCWidth.wcwidth(c));
      i += Character.charCount(c);
    }
    return width;
  }

  /** A safe line cut to a width, with an ellipsis where it was cut. */
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

  /** A safe line with blanks behind it up to a width. */
  static String pad(String text, int width) {
    return text + " ".repeat(Math.max(0, width - width(text)));
  }

  /** A safe line with blanks before it up to a width. */
  static String padLeft(String text, int width) {
    return " ".repeat(Math.max(0, width - width(text))) + text;
  }
}
