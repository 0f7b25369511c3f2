package org.wornladder;

/**
 * What a pull changes in a seed's file, in rows.
 *
 * @param file relative to the project
 * @param added rows of the table that the file did not have
 * @param changed rows with another value than in the file
 * @param removed rows of the file that the table does not have
 * @param unchanged rows that stay as they are written
 */
public record PulledSeed(String file, long added, long changed, long removed, long unchanged) {
  /** How many rows the file has then. */
  public long rows() {
    return added + changed + unchanged;
  }

  /** Whether the file stays as it is. */
  public boolean isQuiet() {
    return added + changed + removed == 0;
  }
}
