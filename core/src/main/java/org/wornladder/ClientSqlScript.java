package org.wornladder;

import java.util.List;

/**
 * What apply would do, as one script for the engine's own client.
 *
 * @param text the whole script
 * @param rungs the labels of the rungs in it
 */
public record ClientSqlScript(String environment, String text, List<String> rungs) {
  public ClientSqlScript {
    rungs = List.copyOf(rungs);
  }
}
