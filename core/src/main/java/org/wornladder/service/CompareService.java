package org.wornladder.service;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.Advice;
import org.wornladder.ComparisonResult;
import org.wornladder.ProjectException;
import org.wornladder.change.CommonSubset;
import org.wornladder.change.Difference;
import org.wornladder.change.VisibleDifferences;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engines;
import org.wornladder.execution.ExpectedState;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.project.Environment;
import org.wornladder.project.Secrets;
import org.wornladder.schema.Snapshot;
import org.wornladder.scratch.ScratchRunner;
import org.wornladder.sql.Place;

/** Compares the structures of two databases, or of a database and the files. */
public record CompareService(ProjectContext project) {
  /**
   * @param left {@code env:NAME} for what is there, {@code expected:NAME} for what its history says
   *     should be, {@code rungs} or {@code schema} for what the files build
   * @param right the same
   * @param rights whether owners and grants count, where both are of one engine
   */
  public ComparisonResult compare(String left, String right, boolean rights) {
    Optional<String> other = environmentIn(left).or(() -> environmentIn(right));
    Side one = side(left, other);
    Side two = side(right, other);
    boolean common = !one.engine().equals(two.engine());
    Snapshot before = common ? CommonSubset.of(one.structure()) : one.structure();
    Snapshot after = common ? CommonSubset.of(two.structure()) : two.structure();
    List<Difference> counting =
        new StructureSources(project)
            .withoutIgnored(StructureSources.all(before, after, rights && !common));
    VisibleDifferences differences =
        VisibleDifferences.of(counting, before, after)
            .map(one.secrets()::mask)
            .map(two.secrets()::mask);
    return new ComparisonResult(
        left,
        right,
        common,
        differences.visible(),
        VisibleDifferences.names(differences.undecidable()));
  }

  private record Side(String engine, Snapshot structure, Secrets secrets) {}

  private static Optional<String> environmentIn(String named) {
    int colon = named.indexOf(':');
    return colon < 0 ? Optional.empty() : Optional.of(named.substring(colon + 1));
  }

  /**
   * @param other the environment for which files are run
   */
  private Side side(String named, Optional<String> other) {
    return switch (named) {
      case "rungs" -> ofFiles(other, true);
      case "schema" -> ofFiles(other, false);
      default -> ofEnvironment(named);
    };
  }

  private Side ofFiles(Optional<String> other, boolean rungs) {
    Environment environment = project.environments().read(other);
    return new Side(
        Engines.of(environment).name(),
        rungs
            ? new ScratchRunner(project).ofRungs(environment, OptionalLong.empty())
            : new ScratchRunner(project).ofSchema(environment),
        environment.definitionSecrets());
  }

  private Side ofEnvironment(String named) {
    String kind = named.substring(0, Math.max(0, named.indexOf(':')));
    if (!kind.equals("env") && !kind.equals("expected")) {
      throw ProjectException.of(
          Place.of(named),
          "compare takes env:NAME, expected:NAME, rungs or schema",
          Advice.of(
              Advice.Code.COMPARE_EXAMPLE, project.project().settings().defaultEnvironment()));
    }
    return project.in(
        environmentIn(named),
        Access.READ,
        context -> {
          ExpectedState state = ExpectedState.of(context, context.journal().read(Depth.GLANCE));
          return new Side(
              context.engine().name(),
              kind.equals("env") ? state.live() : state.expected(),
              context.environment().definitionSecrets());
        });
  }
}
