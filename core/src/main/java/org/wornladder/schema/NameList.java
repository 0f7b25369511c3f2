package org.wornladder.schema;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.sql.Quoting;

/**
 * Names as one text and back: parted by a comma and a blank; a name with anything but letters,
 * digits and underscores is in double quotes, those inside it doubled. No patterns: a short run
 * would wait for them to be built.
 */
public final class NameList {
  private static final String BETWEEN = ", ";
  private static final String QUOTE = "\"";
  private static final Quoting QUOTING = new Quoting('"', Quoting.Backslash.PLAIN);

  private NameList() {}

  public static String write(List<String> names) {
    List<String> written = new ArrayList<>();
    for (String name : names) {
      boolean plain = !name.isEmpty() && plainEnd(name, 0) == name.length();
      written.add(plain ? name : QUOTING.name(name));
    }
    return String.join(BETWEEN, written);
  }

  /** The names that are in the first parentheses of a text; none if it begins otherwise. */
  public static List<String> inParentheses(String text) {
    List<String> names = new ArrayList<>();
    int at = 1;
    for (int end = text.startsWith("(") ? end(text, at) : at; end > at; end = end(text, at)) {
      names.add(plain(text.substring(at, end)));
      if (!text.startsWith(BETWEEN, end)) {
        return names;
      }
      at = end + BETWEEN.length();
    }
    return names;
  }

  /** The one name that a text is; the text itself where it is none. */
  public static String only(String text) {
    return plain(text);
  }

  private static String plain(String written) {
    return written.startsWith(QUOTE)
        ? written.substring(1, written.length() - 1).replace(QUOTE + QUOTE, QUOTE)
        : written;
  }

  /** The place behind the name that begins at another one; none behind it if none does. */
  private static int end(String text, int at) {
    return text.startsWith(QUOTE, at) ? QUOTING.nameEnd(text, at) : plainEnd(text, at);
  }

  private static int plainEnd(String text, int at) {
    int end = at;
    while (end < text.length() && isPlain(text.codePointAt(end), end > at)) {
      end += Character.charCount(text.codePointAt(end));
    }
    return end;
  }

  private static boolean isPlain(int sign, boolean inside) {
    return Character.isLetter(sign) || sign == '_' || (inside && (sign == '$' || isNumber(sign)));
  }

  private static boolean isNumber(int sign) {
    int type = Character.getType(sign);
    return type == Character.DECIMAL_DIGIT_NUMBER
        || type == Character.LETTER_NUMBER
        || type == Character.OTHER_NUMBER;
  }
}
