package org.wornladder.scratch;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.ProjectException;
import org.wornladder.engine.StatementTarget;
import org.wornladder.engine.StatementTarget.Change;
import org.wornladder.engine.StatementTarget.Kind;
import org.wornladder.engine.StatementTargets;
import org.wornladder.project.Problem;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/**
 * Objects that are declared twice. A database refuses most of them, but takes the last of two views
 * that replace each other, and the first of two tables with IF NOT EXISTS.
 */
final class DoubleDeclarations {
  private final Map<String, Place> places = new LinkedHashMap<>();
  private final List<Problem> problems = new ArrayList<>();

  void take(Statement statement) {
    Optional<StatementTarget> made =
        StatementTargets.of(statement)
            .filter(target -> target.change() == Change.MAKES && !canBeOverloaded(target.kind()));
    if (made.isEmpty()) {
      return;
    }
    Place first = places.putIfAbsent(made.get().toString(), statement.place());
    if (first != null) {
      problems.add(
          Problem.error(
              statement.place(),
              made.get().shown() + " is declared here again; first at " + first,
              "keep one of the two; no environment was touched"));
    }
  }

  /** Routines of one name may differ in their parameters. */
  private static boolean canBeOverloaded(Kind kind) {
    return kind == Kind.FUNCTION || kind == Kind.PROCEDURE;
  }

  /**
   * @throws ProjectException with every object that is declared again
   */
  void refuse() {
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
  }
}
