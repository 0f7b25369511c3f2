package org.wornladder;

import java.util.List;
import org.wornladder.change.Difference;
import org.wornladder.change.LeftOut;

/**
 * What brings a database back.
 *
 * @param statements without end marks
 * @param script the statements as the engine's own client reads them
 * @param leftOut what cannot be written; {@code before} is found, {@code after} should be
 * @param hidden objects that this user may not read: whether they differ is unknown
 */
public record MendScript(
    String environment,
    List<String> statements,
    String script,
    List<LeftOut> leftOut,
    List<Difference> hidden) {
  public MendScript {
    statements = List.copyOf(statements);
    leftOut = List.copyOf(leftOut);
    hidden = List.copyOf(hidden);
  }
}
