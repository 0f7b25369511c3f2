package org.wornladder;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.wornladder.engine.Access;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.project.Problem;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectException;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.Seed;
import org.wornladder.seed.Pull;
import org.wornladder.seed.Pulled;
import org.wornladder.seed.SeedApproval;
import org.wornladder.seed.SeedDrift;
import org.wornladder.seed.SeedListener;
import org.wornladder.seed.SeedOptions;
import org.wornladder.seed.SeedOutcome;
import org.wornladder.seed.Seeder;
import org.wornladder.sql.Place;

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

  /** What of the seeds does not fit the tables that stand. */
  List<Problem> misfits(Site site, History history) throws SQLException {
    return project.settings().seeds().isEmpty()
        ? List.of()
        : seeder(site, history, SeedListener.SILENT).misfits();
  }

  /** Reference data beside the rows that stand. */
  SeedDrift drift(Site site, History history, boolean rungsWait) throws SQLException {
    return project.settings().seeds().isEmpty() || !site.session().isThere()
        ? SeedDrift.NONE
        : seeder(site, history, SeedListener.SILENT).drift(rungsWait);
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

  List<Pulled> pull(String environment, List<String> tables) {
    List<Seed> seeds = new ArrayList<>();
    for (String table : tables) {
      seeds.add(pulled(table));
    }
    return visit.in(
        environment,
        Access.READ,
        site -> {
          List<Pulled> pulled = new ArrayList<>();
          Pull pull =
              new Pull(project.root(), site.environment().name(), site.session(), site.structure());
          for (Seed seed : seeds) {
            pulled.add(new Pulled(seed.file(), pull.write(seed)));
          }
          return pulled;
        });
  }

  private Seed pulled(String table) {
    List<Seed> all = project.settings().seeds();
    Seed seed =
        all.stream()
            .filter(one -> one.label().equals(table))
            .findFirst()
            .orElseThrow(
                () ->
                    ProjectException.of(
                        Place.of(ProjectReader.SETTINGS),
                        "there is no seed of " + table,
                        "write - table: " + table + " under seeds:"));
    return switch (seed.form()) {
      case CSV, JSON, YAML -> seed;
      case SAMPLE, SQL ->
          throw ProjectException.of(
              Place.of(seed.file()), "this seed has no rows of its own", "name one that has");
    };
  }

  private Seeder seeder(Site site, History history, SeedListener listener) throws SQLException {
    return new Seeder(ground(site, history), listener);
  }

  Seeder.Ground ground(Site site, History history) throws SQLException {
    return new Seeder.Ground(
        project, site.environment(), site.engine(), site.session(), site.structure(), history);
  }
}
