package org.wornladder.project;

import java.util.List;
import org.wornladder.sql.Place;

/** Rows out of a file. */
abstract class FileSeed implements SeedRows {
  private final SeedSource source;
  private final List<String> columns;

  FileSeed(SeedSource source, List<String> columns) {
    this.source = source;
    this.columns = columns;
  }

  final SeedSource source() {
    return source;
  }

  @Override
  public final List<String> columns() {
    return columns;
  }

  /** By line and column: several rows may share a line. */
  @Override
  public Place place(long position) {
    return source.placeOf(position);
  }

  @Override
  public Place header() {
    return source.place();
  }

  /**
   * A row takes at least a byte for each column: a sign that parts it from the next, or a bracket.
   */
  @Override
  public final long most() {
    return source.bytes() / Math.max(1, columns.size());
  }

  @Override
  public final String fingerprint() {
    return source.fingerprint();
  }
}
