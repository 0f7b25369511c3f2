package org.wornladder.cli.view;

import java.io.PrintStream;
import org.wornladder.StructureSql;
import org.wornladder.change.LeftOut;
import org.wornladder.cli.Terminal;

/** A structure as SQL. */
public final class DdlView {
  private final Colors colors;
  private final PrintStream out;
  private final PrintStream err;

  public DdlView(Terminal terminal) {
    colors = new Colors(terminal);
    out = terminal.out();
    err = terminal.err();
  }

  public void show(StructureSql sql) {
    out.print(SafeText.lines(sql.text()));
    out.flush();
    for (LeftOut left : sql.script().leftOut()) {
      err.println(NotReadable.leftOut(left, colors));
    }
    for (String kinds : NotReadable.kinds(sql.unseen(), colors)) {
      err.println(kinds);
    }
  }
}
