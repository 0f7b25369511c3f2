package org.wornladder;

/** Asks what becomes of the rows that rungs put in. */
public interface FoldQuestions {
  /** Keeps all rows. */
  FoldQuestions KEEP_ROWS = (table, rows) -> true;

  /**
   * Whether the fold puts the rows of a table in, as the rungs did that it stands for.
   *
   * @param rows how many the rungs leave behind
   */
  boolean keepsRows(String table, long rows);
}
