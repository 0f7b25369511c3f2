package org.wornladder.cli.view;

import java.io.PrintStream;
import org.wornladder.cli.Terminal;
import org.wornladder.diff.SqlScript;
import org.wornladder.schema.Element;
import org.wornladder.survey.StructureAsSql;

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

  public void show(StructureAsSql sql) {
    out.print(Clean.lines(SqlScript.of(sql.script().statements())));
    out.flush();
    for (Element left : sql.script().leftOut()) {
      err.println(NotReadable.leftOut(left, paint));
    }
    for (String sorts : NotReadable.sorts(sql.unseen(), paint)) {
      err.println(sorts);
    }
  }
}
