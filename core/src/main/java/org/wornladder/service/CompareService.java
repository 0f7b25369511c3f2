package org.wornladder.service;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.wornladder.Advice;
import org.wornladder.ComparisonResult;
import org.wornladder.ProjectException;
import org.wornladder.StructureModel;
import org.wornladder.change.CommonSubset;
import org.wornladder.change.Difference;
import org.wornladder.change.ModelledStructure;
import org.wornladder.change.VisibleDifferences;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engines;
import org.wornladder.entity.EntityModel;
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
  private static final String ENTITIES = "entities";
  private static final String RUNGS = "rungs";
  private static final String SCHEMA = "schema";
  private static final Set<String> FILES = Set.of(ENTITIES, RUNGS, SCHEMA);
  private static final String ENVIRONMENT = "env";

  /**
   * @param left {@code env:NAME}, or the name alone, for what is there, {@code expected:NAME} for
   *     what its history says should be, {@code rungs} or {@code schema} for what the files build,
   *     {@code entities} for what the entity classes say of the other side
   * @param right the same
   * @param rights whether owners and grants count, where both are of one engine
   */
  public ComparisonResult compare(String left, String right, boolean rights) {
    return compared(whole(left), whole(right), rights);
  }

  /** An environment's name alone is what is there. */
  private String whole(String named) {
    boolean alone = !FILES.contains(named) && !named.contains(":");
    return alone && project.project().settings().environments().containsKey(named)
        ? ENVIRONMENT + ":" + named
        : named;
  }

  private ComparisonResult compared(String left, String right, boolean rights) {
    Optional<String> other = environmentIn(left).or(() -> environmentIn(right));
    Side one = side(left, right, other);
    Side two = side(right, left, other);
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
   * @param beside the other side
   * @param other the environment for which files are run
   */
  private Side side(String named, String beside, Optional<String> other) {
    if (named.equals(ENTITIES)) {
      return ofEntities(beside, other);
    }
    return switch (named) {
      case RUNGS -> ofFiles(other, true);
      case SCHEMA -> ofFiles(other, false);
      default -> ofEnvironment(named);
    };
  }

  /** What the classes say, and of everything else what the other side has. */
  private Side ofEntities(String beside, Optional<String> other) {
    if (beside.equals(ENTITIES)) {
      throw ProjectException.of(
          Place.of(beside),
          "the entity classes are compared with something else",
          "write rungs, env:NAME or expected:NAME as the other side");
    }
    Environment environment = project.environments().read(other);
    Snapshot present = side(beside, ENTITIES, other).structure().withoutRights();
    StructureModel model = EntityModel.of(project, List.of());
    ScratchRunner runner = new ScratchRunner(project);
    Snapshot alone =
        runner.in(
            environment,
            scratch -> {
              runner.createSchemas(scratch);
              return model.structure(scratch).withoutRights();
            });
    return new Side(
        Engines.of(environment).name(),
        ModelledStructure.of(present, alone).whole(),
        environment.definitionSecrets());
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
    if (!kind.equals(ENVIRONMENT) && !kind.equals("expected")) {
      throw ProjectException.of(
          Place.of(named),
          "compare takes env:NAME, expected:NAME, rungs, schema or entities",
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
              kind.equals(ENVIRONMENT) ? state.live() : state.expected(),
              context.environment().definitionSecrets());
        });
  }
}
