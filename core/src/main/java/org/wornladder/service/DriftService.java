package org.wornladder.service;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.wornladder.Against;
import org.wornladder.CheckReport.Finding;
import org.wornladder.DriftReport;
import org.wornladder.Status;
import org.wornladder.change.Difference;
import org.wornladder.change.VisibleDifferences;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Access;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ExpectedState;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.schema.Snapshot;

/**
 * Finds out whether a database is what its history says, or what the files build. Needs only the
 * right to read, except for the scratch database in which files are run.
 */
public record DriftService(ProjectContext project) {
  /**
   * @param rights whether owners and grants count
   */
  public DriftReport drift(Optional<String> environment, Against against, boolean rights) {
    return project.in(environment, Access.READ, context -> drift(context, against, rights));
  }

  private DriftReport drift(EnvironmentContext context, Against against, boolean rights)
      throws SQLException {
    History history = context.journal().read(Depth.WHOLE);
    Findings findings = findings(context, history);
    if (against == Against.EXPECTED && isUnchangedSinceLastRun(context)) {
      return findings.report(against, true, VisibleDifferences.NOTHING, 0);
    }
    StructureSources structures = new StructureSources(project);
    ExpectedState state = ExpectedState.of(context, history);
    Snapshot wanted = structures.wanted(against, context.environment(), state);
    List<Difference> all = StructureSources.all(wanted, state.live(), rights);
    List<Difference> counting = structures.withoutIgnored(all);
    return findings.report(
        against,
        against != Against.EXPECTED || state.known(),
        VisibleDifferences.of(counting, wanted, state.live())
            .map(context.environment().definitionSecrets()::mask),
        all.size() - counting.size());
  }

  /** Whether the database itself says so; false where it cannot say. */
  private static boolean isUnchangedSinceLastRun(EnvironmentContext context) throws SQLException {
    if (!context.engine().abilities().contains(Ability.STRUCTURE_FINGERPRINT)) {
      return false;
    }
    Optional<String> saved = context.snapshots().last().catalogFingerprint();
    return saved.isPresent() && context.catalogFingerprint().equals(saved);
  }

  /** What is found beside the structure. */
  private record Findings(
      EnvironmentContext context,
      History history,
      Status status,
      List<Finding> files,
      SeedService seeds) {
    DriftReport report(Against against, boolean known, VisibleDifferences differences, int ignored)
        throws SQLException {
      return new DriftReport(
          context.environment().name(),
          context.engine().name(),
          context.session().address(),
          context.session().isThere(),
          against,
          known,
          differences.visible(),
          ignored,
          VisibleDifferences.names(differences.undecidable()),
          files,
          history.broken(),
          history.entries().size(),
          seeds.drift(context, history, status.waiting() > 0));
    }
  }

  private Findings findings(EnvironmentContext context, History history) throws SQLException {
    Status status = StatusService.reader(context, history).read(context.session());
    return new Findings(
        context,
        history,
        status,
        CheckService.ofRungs(status, project.project()),
        new SeedService(project));
  }
}
