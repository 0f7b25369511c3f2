package org.wornladder.cli.view;

import java.util.Set;
import org.wornladder.project.Problem;

/** A problem as JSON, wherever one is written. */
final class ProblemJson {
  private ProblemJson() {}

  static Json of(Problem problem) {
    return new Json()
        .put("severity", problem.isError() ? "error" : "note")
        .put("where", problem.place().toString())
        .put("file", problem.place().file())
        .put("line", problem.place().line())
        .put("column", problem.place().column())
        .put("what", problem.message())
        .put("next", AdviceText.of(problem.advice(), Set.of()));
  }
}
