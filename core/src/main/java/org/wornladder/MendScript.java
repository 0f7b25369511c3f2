package org.wornladder;

import java.util.List;
import org.wornladder.change.Difference;
import org.wornladder.change.LeftOut;
import org.wornladder.sql.Dialect;

/**
 * What brings a database back.
 *
 * @param dialect how the statements are read
 * @param statements without end marks
 * @param script the statements as the engine's own client reads them
 * @param losses what rows lose by them, such as {@code the values of fax in grower}
 * @param leftOut what cannot be written; {@code before} is found, {@code after} should be
 * @param hidden objects that this user may not read: whether they differ is unknown
 */
public record MendScript(
    String environment,
    Dialect dialect,
    List<String> statements,
    String script,
    List<String> losses,
    List<LeftOut> leftOut,
    List<Difference> hidden) {
  public MendScript {
    statements = List.copyOf(statements);
    losses = List.copyOf(losses);
    leftOut = List.copyOf(leftOut);
    hidden = List.copyOf(hidden);
  }
}
