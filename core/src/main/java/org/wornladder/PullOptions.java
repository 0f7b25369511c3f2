package org.wornladder;

import java.util.List;

/**
 * Options of writing rows back to seed files.
 *
 * @param tables whose seeds are written, all or none
 * @param dryRun whether nothing is written
 */
public record PullOptions(List<String> tables, boolean dryRun) {
  public PullOptions {
    tables = List.copyOf(tables);
  }
}
