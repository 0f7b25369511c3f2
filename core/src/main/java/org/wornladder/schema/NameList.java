package org.wornladder.schema;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Names as one text and back: parted by a comma and a blank; a name with anything but letters,
 * digits and underscores stands in double quotes, those inside it doubled.
 */
public final class NameList {
  /** Built for who needs them: to build a pattern delays a short run. */
  private static final class Patterns {
    static final Pattern PLAIN = Pattern.compile("[\\p{L}_][\\p{L}\\p{N}_$]*");
    static final Pattern NAME = Pattern.compile("\"((?:[^\"]|\"\")*)\"|[\\p{L}_][\\p{L}\\p{N}_$]*");
  }

  private NameList() {}

  public static String write(List<String> names) {
    List<String> written = new ArrayList<>();
    for (String name : names) {
      written.add(isPlain(name) ? name : "\"" + name.replace("\"", "\"\"") + "\"");
    }
    return String.join(", ", written);
  }

  /** Most names are letters of the alphabet, digits and underscores: no pattern is needed. */
  private static boolean isPlain(String name) {
    for (int i = 0; i < name.length(); i++) {
      char c = name.charAt(i);
      boolean letter = c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '_';
      if (!letter && (i == 0 || c < '0' || c > '9')) {
        return Patterns.PLAIN.matcher(name).matches();
      }
    }
    return !name.isEmpty();
  }

  /** The names that stand in the first parentheses of a text; none if it begins otherwise. */
  public static List<String> inParentheses(String text) {
    List<String> names = new ArrayList<>();
    Matcher name = Patterns.NAME.matcher(text);
    for (int at = 1; text.startsWith("(") && name.find(at) && name.start() == at; ) {
      names.add(name.group(1) == null ? name.group() : name.group(1).replace("\"\"", "\""));
      at = name.end();
      if (!text.startsWith(", ", at)) {
        return names;
      }
      at += 2;
    }
    return names;
  }
}
