package org.wornladder;

import java.util.List;

/**
 * Rungs that became one.
 *
 * @param file the new rung's file, relative to the project
 * @param text of the file
 * @param folded the labels of the rungs that it stands for
 * @param movedTo where their files are now; empty if they are gone
 * @param rows what the fold puts in, by table
 * @param written whether the files were changed
 * @param unasked environments that could not be asked how far they are, and why
 */
public record Fold(
    String file,
    String text,
    List<String> folded,
    String movedTo,
    List<Rows> rows,
    boolean written,
    List<String> unasked) {
  /**
   * Rows of a table.
   *
   * @param kept whether the fold has them
   */
  public record Rows(String table, long count, boolean kept) {}

  public Fold {
    folded = List.copyOf(folded);
    rows = List.copyOf(rows);
    unasked = List.copyOf(unasked);
  }
}
