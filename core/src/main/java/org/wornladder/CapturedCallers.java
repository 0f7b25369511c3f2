package org.wornladder;

import java.util.List;

/**
 * The statements that a server's statistics have counted in a database, as callers.
 *
 * @param statements the one that ran most often first; their values are {@code :parameters}
 * @param leftOut how many were left out, since the statistics do not hold them whole
 * @param isComplete false if the statistics were full, so that statements may be missing
 */
public record CapturedCallers(
    String environment, List<String> statements, int leftOut, boolean isComplete) {
  public CapturedCallers {
    statements = List.copyOf(statements);
  }

  /** The text of a file in {@code callers/}. */
  public String text() {
    StringBuilder text =
        new StringBuilder("-- Counted on " + environment + " by the server's own statistics.\n");
    statements.forEach(statement -> text.append('\n').append(statement).append(";\n"));
    return text.toString();
  }
}
