package org.wornladder;

import java.util.List;

/**
 * What apply would do, as one script for the engine's own client.
 *
 * @param engine whose client runs it
 * @param text the whole script
 * @param rungs the labels of the rungs in it
 * @param variables the client's variables that give it the values which it does not hold
 */
public record ClientSqlScript(
    String environment, String engine, String text, List<String> rungs, List<String> variables) {
  /** What a script does. */
  public enum Content {
    /** What apply would do. */
    UP,
    /** The same, and then the reference data. */
    UP_AND_SEEDS,
    /** It takes rungs back: the last one, or those above the number that is named. */
    DOWN
  }

  public ClientSqlScript {
    variables = List.copyOf(variables);
    rungs = List.copyOf(rungs);
  }
}
