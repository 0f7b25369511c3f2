package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;

/** Breaks lines between words. */
final class Wrapping {
  private Wrapping() {}

  /**
   * A safe line as lines of at most a width, all with the indentation of the first; a word that is
   * longer stays whole. At least one line.
   */
  static List<String> words(String text, int width) {
    if (SafeText.width(text) <= width) {
      return List.of(text);
    }
    String margin = text.substring(0, text.length() - text.stripLeading().length());
    List<String> lines = new ArrayList<>();
    StringBuilder line = new StringBuilder(margin);
    for (String word : text.strip().split(" ")) {
      boolean begun = line.length() > margin.length();
      if (begun && SafeText.width(line + " " + word) > width) {
        lines.add(line.toString());
        line = new StringBuilder(margin);
        begun = false;
      }
      line.append(begun ? " " : "").append(word);
    }
    lines.add(line.toString());
    return lines;
  }
}
