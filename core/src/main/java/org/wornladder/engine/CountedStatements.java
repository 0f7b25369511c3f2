package org.wornladder.engine;

import java.util.List;

/**
 * The statements that a server's statistics hold for a database.
 *
 * @param texts the one that ran most often first, with the server's marks in the place of values
 * @param isComplete false if the statistics were full, so that statements are missing
 */
public record CountedStatements(List<String> texts, boolean isComplete) {
  public CountedStatements {
    texts = List.copyOf(texts);
  }
}
