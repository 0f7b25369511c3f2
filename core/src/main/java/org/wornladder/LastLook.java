package org.wornladder;

import java.sql.SQLException;
import java.util.Optional;
import org.wornladder.diff.StructureSummary;
import org.wornladder.engine.Meanwhile;
import org.wornladder.schema.Schema;

/**
 * The structure at the end of a run of all or nothing, read before the commit: the server still has
 * the catalogue at hand. Not where the environment is guarded: what waits for the run's locks there
 * shall not wait for a reading too.
 */
final class LastLook implements Runnable {
  private final Site site;
  private final Expectation expectation;
  private Optional<Meanwhile<Expectation.Result>> seen = Optional.empty();
  private long nanos;

  LastLook(Site site, Expectation expectation) {
    this.site = site;
    this.expectation = expectation;
  }

  @Override
  public void run() {
    seen = Optional.empty();
    if (site.environment().settings().guarded()) {
      return;
    }
    long start = System.nanoTime();
    try {
      Schema there = site.structureToKeep();
      seen = Optional.of(Meanwhile.begin(() -> expectation.result(there)));
    } catch (SQLException | RuntimeException e) {
      // No reason to undo the run: it is read again after the commit, and what fails then is told.
      seen = Optional.empty();
    }
    nanos = System.nanoTime() - start;
  }

  /** To be called after the run: keeps what should stand there, and says what was changed. */
  StructureSummary keep() throws SQLException {
    return seen.isPresent() ? expectation.keepAfter(seen.get().get()) : expectation.keepAfter();
  }

  /** How long the look took. */
  long millis() {
    return nanos / 1_000_000;
  }
}
