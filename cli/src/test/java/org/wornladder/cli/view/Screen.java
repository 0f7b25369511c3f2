package org.wornladder.cli.view;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import org.wornladder.cli.Terminal;

/** A terminal of any width that remembers what was written. */
final class Screen {
  private final ByteArrayOutputStream out = new ByteArrayOutputStream();
  private final ByteArrayOutputStream err = new ByteArrayOutputStream();
  private final Terminal terminal;

  private Screen(int width, boolean isTerminal, boolean color, boolean unicode, String typed) {
    terminal =
        new Terminal(
            new ByteArrayInputStream(typed.getBytes(StandardCharsets.UTF_8)),
            new PrintStream(out, true, StandardCharsets.UTF_8),
            new PrintStream(err, true, StandardCharsets.UTF_8),
            isTerminal,
            isTerminal,
            isTerminal,
            width,
            color,
            unicode);
  }

  static Screen wide(int columns) {
    return new Screen(columns, true, false, true, "");
  }

  static Screen plain() {
    return new Screen(100, false, false, false, "");
  }

  static Screen coloured() {
    return new Screen(100, true, true, true, "");
  }

  Terminal terminal() {
    return terminal;
  }

  String out() {
    return out.toString(StandardCharsets.UTF_8);
  }

  String err() {
    return err.toString(StandardCharsets.UTF_8);
  }
}
