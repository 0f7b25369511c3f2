package org.wornladder;

import java.sql.SQLException;
import org.wornladder.engine.Access;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.project.Project;
import org.wornladder.seed.SeedApproval;
import org.wornladder.seed.SeedListener;
import org.wornladder.seed.SeedOptions;
import org.wornladder.seed.SeedOutcome;
import org.wornladder.seed.Seeder;

/** Brings reference data and made-up rows to what the files say. */
record Seeding(Project project, LadderSettings settings, Visit visit) {
  SeedOutcome seed(
      String environment, SeedOptions options, SeedApproval approval, SeedListener listener) {
    if (options.dryRun()) {
      return visit.in(
          environment,
          Access.READ,
          site -> seeder(site, site.journal().read(Depth.GLANCE), listener).plan(options));
    }
    return visit.in(
        environment,
        Access.WRITE,
        site ->
            site.locked(
                settings,
                listener::waiting,
                same -> seedLocked(same, options, approval, listener)));
  }

  /** For who has the lock already. */
  SeedOutcome seedLocked(
      Site site, SeedOptions options, SeedApproval approval, SeedListener listener)
      throws SQLException {
    Seeder seeder = seeder(site, site.provenHistory(), listener);
    SeedOutcome planned = seeder.plan(options);
    if (!planned.isQuiet()) {
      approval.check(planned, site.environment());
    }
    return seeder.write(planned, site.journal());
  }

  private Seeder seeder(Site site, History history, SeedListener listener) throws SQLException {
    return new Seeder(ground(site, history), listener);
  }

  Seeder.Ground ground(Site site, History history) throws SQLException {
    return new Seeder.Ground(
        project, site.environment(), site.engine(), site.session(), site.structure(), history);
  }
}
