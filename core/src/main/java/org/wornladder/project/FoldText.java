package org.wornladder.project;

import java.util.List;
import java.util.Map;

/** The file of a rung that stands for others. */
public final class FoldText {
  private FoldText() {}

  /**
   * The text.
   *
   * @param statements by the name of the engine that runs them
   */
  public static String of(String words, FoldedRange range, Map<String, List<String>> statements) {
    StringBuilder text = new StringBuilder();
    text.append("--| about: ").append(ProjectWriter.about(words)).append('\n');
    text.append("--| folds: ").append(range.text()).append('\n');
    text.append("--| no way down: it builds a new database; rebuild empties one\n");
    statements.forEach(
        (engine, ofEngine) -> {
          text.append(statements.size() == 1 ? "--| up\n" : "--| up on " + engine + "\n");
          RungDraft.lines(ofEngine).forEach(line -> text.append(line).append('\n'));
        });
    return text.toString();
  }
}
