package org.wornladder.project;

/**
 * One versioned change: a file in {@code rungs/}.
 *
 * @param number its identity; above zero
 * @param label the number as the file writes it, with leading zeros
 * @param words what the file name says, with blanks for the dashes
 */
public record Rung(long number, String label, String words, Script script) {
  /** What it is for: its {@code about} line, or the words of its file name. */
  public String about() {
    return script.header().about().orElse(words);
  }

  public String file() {
    return script.file();
  }
}
