package org.wornladder.service;

import java.util.List;
import java.util.OptionalLong;
import org.wornladder.Against;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.change.VisibleDifferences;
import org.wornladder.execution.ExpectedState;
import org.wornladder.execution.ProjectContext;
import org.wornladder.project.Environment;
import org.wornladder.project.Rung;
import org.wornladder.schema.Snapshot;
import org.wornladder.scratch.ScratchRunner;

/** The structures that a project can be compared with, and the differences that count in it. */
record StructureSources(ProjectContext project) {
  ScratchRunner scratch() {
    return new ScratchRunner(project);
  }

  /** The structure that an environment should have. */
  Snapshot wanted(Against against, Environment environment, ExpectedState state) {
    return switch (against) {
      case EXPECTED -> state.expected();
      case RUNGS -> scratch().ofRungs(environment, OptionalLong.empty());
      case SCHEMA -> scratch().ofSchema(environment);
    };
  }

  /** The differences between what the ladder up to a rung builds and what is there. */
  List<Difference> sinceRung(Environment environment, Rung rung, Snapshot live) {
    Snapshot built = scratch().ofRungs(environment, OptionalLong.of(rung.number()));
    return withoutIgnored(Differences.between(built, live));
  }

  List<Difference> withoutIgnored(List<Difference> all) {
    return new IgnoreFilter(project.project().settings().ignore()).without(all);
  }

  VisibleDifferences visible(Snapshot before, Snapshot after, boolean rights) {
    return VisibleDifferences.of(withoutIgnored(all(before, after, rights)), before, after);
  }

  /**
   * @param rights whether owners and grants count
   */
  static List<Difference> all(Snapshot before, Snapshot after, boolean rights) {
    return rights ? Differences.withRights(before, after) : Differences.between(before, after);
  }
}
