package org.wornladder.cli.view;

import org.wornladder.cli.Terminal;
import org.wornladder.execution.AcceptedFile;

/** An edited file of a stuck rung, beside what ran of it. */
public final class AcceptedFileView {
  private final Page page;
  private final Colors colors;

  public AcceptedFileView(Terminal terminal) {
    page = new Page(terminal);
    colors = page.colors();
  }

  public void show(AcceptedFile file) {
    page.heading(file.label(), "the file is not what ran of it");
    Columns columns = new Columns();
    for (AcceptedFile.Line line : file.lines()) {
      columns.row(state(line), SafeText.line(line.mark().summary()));
    }
    page.rows(columns);
    page.gap();
  }

  private String state(AcceptedFile.Line line) {
    return switch (line.state()) {
      case DONE -> "done";
      case NEXT -> colors.strong("runs next");
      case GONE -> colors.warning("done, not in the file any more");
    };
  }
}
