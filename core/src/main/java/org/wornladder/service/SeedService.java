package org.wornladder.service;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.wornladder.ProjectException;
import org.wornladder.PullApproval;
import org.wornladder.PullOptions;
import org.wornladder.PulledSeed;
import org.wornladder.SeedApproval;
import org.wornladder.SeedDrift;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.SeedOptions.SampleOrder;
import org.wornladder.SeedRunResult;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engines;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.project.Environment;
import org.wornladder.project.Problem;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedFiles;
import org.wornladder.seed.SeedPull;
import org.wornladder.seed.SeedSelection;
import org.wornladder.seed.SeedWork;
import org.wornladder.seed.Seeder;
import org.wornladder.sql.Place;

/** Brings reference data and made-up rows to what the files say. */
public record SeedService(ProjectContext project) {
  public SeedRunResult seed(
      Optional<String> environment,
      SeedOptions options,
      SeedApproval approval,
      SeedListener listener) {
    if (options.dryRun()) {
      return project.in(
          environment,
          Access.READ,
          context -> seeder(context, context.journal().read(Depth.GLANCE), listener).plan(options));
    }
    return project.in(
        environment,
        Access.WRITE,
        context ->
            context.locked(
                project.settings(),
                listener::waiting,
                same -> seedLocked(same, options, approval, listener)));
  }

  /**
   * Reads every seed of an environment to its end, so that one that cannot be read is found before
   * anything is changed.
   *
   * @throws ProjectException with all that is wrong with the files
   */
  public void examine(Environment environment) {
    List<Problem> problems = new ArrayList<>();
    SeedSelection here = new SeedSelection(project.project().settings().seeds(), environment);
    for (Seed seed : here.of(SeedOptions.ALL)) {
      try {
        SeedFiles.examine(
            project.project().root(), seed, project.project().engineNames(Engines::isOther));
      } catch (ProjectException e) {
        problems.addAll(e.problems());
      }
    }
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
  }

  /** What of the seeds does not fit the tables that stand. */
  List<Problem> misfits(EnvironmentContext context, History history) throws SQLException {
    return project.project().settings().seeds().isEmpty()
        ? List.of()
        : seeder(context, history, SeedListener.SILENT).misfits();
  }

  /** Reference data beside the rows that stand. */
  SeedDrift drift(EnvironmentContext context, History history, boolean rungsWait)
      throws SQLException {
    return project.project().settings().seeds().isEmpty() || !context.session().isThere()
        ? SeedDrift.NONE
        : seeder(context, history, SeedListener.SILENT).drift(rungsWait);
  }

  /** For a caller that has the lock. */
  SeedRunResult seedLocked(
      EnvironmentContext context, SeedOptions options, SeedApproval approval, SeedListener listener)
      throws SQLException {
    SeedWork seeder = seeder(context, context.provenHistory(), listener);
    SeedRunResult planned = seeder.plan(options);
    if (!planned.isQuiet()) {
      approval.check(planned, context.environment());
    }
    return seeder.write(planned, context.journal());
  }

  public List<PulledSeed> pull(
      Optional<String> environment, PullOptions options, PullApproval approval) {
    return project.in(environment, Access.READ, context -> pull(context, options, approval));
  }

  private List<PulledSeed> pull(
      EnvironmentContext context, PullOptions options, PullApproval approval) throws SQLException {
    String name = context.environment().name();
    List<Seed> seeds = options.tables().stream().map(table -> pulled(table, name)).toList();
    List<PulledSeed> pulled = new ArrayList<>();
    try (SeedPull pull =
        new SeedPull(
            project.project().root(),
            context.environment().name(),
            context.session(),
            context.structure(),
            options.dryRun())) {
      for (Seed seed : seeds) {
        pulled.add(pull.take(seed));
      }
      if (!options.dryRun()) {
        approval.check(pulled.stream().filter(file -> !file.isQuiet()).toList());
        pull.replace();
      }
    }
    return pulled;
  }

  private Seed pulled(String table, String environment) {
    List<Seed> all = project.project().settings().seeds();
    Seed seed =
        all.stream()
            .filter(one -> one.label().equals(table))
            .max(
                Comparator.comparing((Seed one) -> one.isFor(environment))
                    .thenComparing(one -> !one.isSample()))
            .map(one -> one.in(environment))
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

  public List<String> writeSamples(
      Optional<String> environment, SampleOrder order, boolean overwrite) {
    return project.in(
        environment,
        Access.READ,
        context ->
            seeder(context, context.journal().read(Depth.GLANCE), SeedListener.SILENT)
                .writeSamples(order, overwrite));
  }

  private SeedWork seeder(EnvironmentContext context, History history, SeedListener listener)
      throws SQLException {
    return SeedWork.on(ground(context, history), listener);
  }

  Seeder.Ground ground(EnvironmentContext context, History history) throws SQLException {
    return new Seeder.Ground(
        context.project(),
        context.environment(),
        context.engine(),
        context.session(),
        context.structure(),
        history);
  }
}
