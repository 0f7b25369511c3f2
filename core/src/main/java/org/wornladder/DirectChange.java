package org.wornladder;

import java.util.List;
import org.wornladder.change.LeftOut;

/**
 * A change of a database that no rung makes.
 *
 * @param statements in order, without end marks
 * @param losses what rows lose by them, in words
 * @param leftOut differences that they do not settle
 */
public record DirectChange(
    String environment, List<String> statements, List<String> losses, List<LeftOut> leftOut) {
  public DirectChange {
    statements = List.copyOf(statements);
    losses = List.copyOf(losses);
    leftOut = List.copyOf(leftOut);
  }
}
