package org.wornladder;

import java.util.List;

/**
 * What one seed did, or would do.
 *
 * @param label the table, or the script's file
 * @param file where it is
 * @param fingerprint of the file
 * @param counts all zero for a script
 * @param statements how many statements of a script run; 0 for rows
 * @param changes the first rows that change; none where nobody asked for them
 */
public record SeedResult(
    String label,
    String file,
    String fingerprint,
    SeedCounts counts,
    int statements,
    List<RowChange> changes) {
  public SeedResult {
    changes = List.copyOf(changes);
  }

  /** Whether it finds everything as it should be. */
  public boolean isQuiet() {
    return counts.isQuiet() && statements == 0;
  }
}
