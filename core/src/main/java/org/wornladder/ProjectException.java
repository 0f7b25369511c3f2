package org.wornladder;

import java.util.List;
import org.wornladder.project.Problem;
import org.wornladder.sql.Place;

/** Files that cannot be worked with; bears every problem found, not only the first. */
public final class ProjectException extends LadderException {
  private final transient List<Problem> problems;

  public ProjectException(List<Problem> problems) {
    super(
        problems.get(0).message(),
        problems.get(0).place().toString(),
        problems.get(0).advice(),
        null);
    this.problems = List.copyOf(problems);
  }

  /** With a hint that names no command; it may be empty. */
  public static ProjectException of(Place place, String message, String hint) {
    return of(place, message, Advice.hint(hint));
  }

  public static ProjectException of(Place place, String message, Advice advice) {
    return new ProjectException(List.of(Problem.error(place, message, advice)));
  }

  public List<Problem> problems() {
    return problems;
  }
}
