package org.wornladder;

import java.util.List;
import org.wornladder.change.Difference;

/**
 * What brings a database back.
 *
 * @param statements without end marks
 * @param leftOut what cannot be written; {@code before} is found, {@code after} should be
 * @param hidden what this user may not see, so that nobody can say whether it needs mending
 */
public record MendScript(
    String environment,
    List<String> statements,
    List<Difference> leftOut,
    List<Difference> hidden) {
  public MendScript {
    statements = List.copyOf(statements);
    leftOut = List.copyOf(leftOut);
    hidden = List.copyOf(hidden);
  }
}
