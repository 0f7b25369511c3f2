package org.wornladder.cli.view;

import org.wornladder.cli.Terminal;

/** Colours and signs, as far as the terminal has them. Nothing is said by colour alone. */
final class Colors {
  private final boolean color;
  private final boolean unicode;

  Colors(Terminal terminal) {
    color = terminal.color();
    unicode = terminal.unicode();
  }

  String good(String text) {
    return coloured("32", text);
  }

  String bad(String text) {
    return coloured("31", text);
  }

  String warning(String text) {
    return coloured("33", text);
  }

  String faint(String text) {
    return coloured("2", text);
  }

  String strong(String text) {
    return coloured("1", text);
  }

  private String coloured(String code, String text) {
    return color && !text.isEmpty() ? "\u001b[" + code + "m" + text + "\u001b[0m" : text;
  }

  String ellipsis() {
    return unicode ? "…" : "...";
  }

  /** One of two signs, by what the terminal can draw. */
  String sign(String drawn, String plain) {
    return unicode ? drawn : plain;
  }
}
