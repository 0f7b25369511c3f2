package org.wornladder.seed;

import java.sql.SQLException;
import java.util.List;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.SeedDrift;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.SeedOptions.SampleOrder;
import org.wornladder.SeedRunResult;
import org.wornladder.journal.Journal;
import org.wornladder.project.Problem;

/** Compares a project's seeds with one environment, and brings what they say there. */
public interface SeedWork {
  /** The work where the environment has tables or collections. */
  static SeedWork on(Seeder.Ground ground, SeedListener listener) {
    return ground.session().documents().isPresent()
        ? new DocumentSeeder(ground, ground.session().documents().get(), listener)
        : new Seeder(ground, listener);
  }

  /** What of the seeds does not fit what stands; none if all do. */
  List<Problem> misfits();

  /**
   * Compares reference data with what stands; what is made up does not count.
   *
   * @param rungsWait whether rungs wait there: then seeds may be ahead of what stands
   */
  SeedDrift drift(boolean rungsWait) throws SQLException;

  /**
   * Reads, checks and compares everything; nothing is written that lasts.
   *
   * @throws ProjectException with what is wrong with the files
   * @throws RefusedException if something would be deleted that must not be
   */
  SeedRunResult plan(SeedOptions options) throws SQLException;

  /**
   * Writes what was planned, and leaves an entry in the journal for every seed.
   *
   * @param planned what {@link #plan} returned
   */
  SeedRunResult write(SeedRunResult planned, Journal journal) throws SQLException;

  /**
   * Writes guesses of how rows could be made up as files.
   *
   * @return the files, relative to the project
   * @throws RefusedException if one is there already, or nothing is known to guess by
   */
  List<String> writeSamples(SampleOrder order, boolean overwrite);
}
