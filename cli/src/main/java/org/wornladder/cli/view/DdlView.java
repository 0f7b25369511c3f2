package org.wornladder.cli.view;

import java.io.PrintStream;
import org.wornladder.cli.Terminal;
import org.wornladder.diff.CreationScript;
import org.wornladder.diff.SqlScript;
import org.wornladder.schema.Element;

/** A structure as SQL. */
public final class DdlView {
  private final Paint paint;
  private final PrintStream out;
  private final PrintStream err;

  public DdlView(Terminal terminal) {
    paint = new Paint(terminal);
    out = terminal.out();
    err = terminal.err();
  }

  public void show(CreationScript script) {
    out.print(Clean.lines(SqlScript.of(script.statements())));
    out.flush();
    for (Element left : script.leftOut()) {
      err.println(
          paint.warning("left out: ")
              + left.kind().word()
              + " "
              + Clean.line(left.name())
              + ", which cannot be written as SQL here");
    }
  }
}
