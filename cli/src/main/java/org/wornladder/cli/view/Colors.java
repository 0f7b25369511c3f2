package org.wornladder.cli.view;

import org.wornladder.cli.Terminal;

/** Colours and signs, as far as the terminal has them. Nothing is said by colour alone. */
final class Colors {
  /** Begins a control sequence (ECMA-48, section 5.4). */
  static final char ESCAPE = '\u001b';

  private final boolean color;
  private final boolean unicode;

  Colors(Terminal terminal) {
    color = terminal.color();
    unicode = terminal.unicode();
  }

  boolean areOn() {
    return color;
  }

  /** Done. */
  String good(String text) {
    return coloured("32", text);
  }

  /** Failed, or lost. */
  String bad(String text) {
    return coloured("31", text);
  }

  /** Needs a person. */
  String warning(String text) {
    return coloured("33", text);
  }

  /** Second-hand. */
  String faint(String text) {
    return coloured("2", text);
  }

  String strong(String text) {
    return coloured("1", text);
  }

  /** A keyword of SQL. */
  String keyword(String text) {
    return coloured("36", text);
  }

  /** What a change may do. */
  String risk(String text) {
    return coloured("35", text);
  }

  /** What differs between two texts. */
  String difference(String text) {
    return coloured("4", text);
  }

  private String coloured(String code, String text) {
    return color && !text.isEmpty() ? ESCAPE + "[" + code + "m" + text + ESCAPE + "[0m" : text;
  }

  String ellipsis() {
    return unicode ? "…" : "...";
  }

  /** One of two signs, by what the terminal can draw. */
  String sign(String drawn, String plain) {
    return unicode ? drawn : plain;
  }
}
