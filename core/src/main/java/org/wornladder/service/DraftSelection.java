package org.wornladder.service;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.DraftOptions;
import org.wornladder.DriftRung;
import org.wornladder.RefusedException;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.change.VisibleDifferences;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Engines;
import org.wornladder.execution.ProjectContext;
import org.wornladder.execution.StandingObjects;
import org.wornladder.project.Environment;
import org.wornladder.schema.Snapshot;

/** Which differences a draft takes. */
record DraftSelection(ProjectContext project, Environment like, DraftOptions options) {
  /**
   * The differences, by what becomes of them.
   *
   * @param differences those to be drafted
   * @param standing those of objects that standing scripts make
   * @param hidden objects that could not be compared
   */
  record Selected(
      List<Difference> differences, List<DriftRung.OfStanding> standing, List<Difference> hidden) {}

  /**
   * Selects among the differences of two structures.
   *
   * @throws RefusedException if a pattern names none of them
   */
  Selected of(Snapshot present, Snapshot wanted) {
    StructureSources sources = new StructureSources(project);
    VisibleDifferences visible = sources.visible(present, wanted, false);
    List<Difference> all = new ArrayList<>();
    List<DriftRung.OfStanding> standing = new ArrayList<>();
    Engine engine = Engines.of(like);
    StandingObjects objects = new StandingObjects(project.project(), engine, like);
    for (Difference difference : inOrder(engine, visible.visible())) {
      Optional<String> maker = objects.maker(difference);
      if (maker.isEmpty()) {
        all.add(difference);
      } else if (difference.change() != Difference.Change.REMOVED) {
        standing.add(new DriftRung.OfStanding(maker.get(), difference));
      }
    }
    return new Selected(chosen(all), standing, visible.undecidable());
  }

  /** Where columns cannot be put at a place, another order of them is nothing to write. */
  private static List<Difference> inOrder(Engine engine, List<Difference> all) {
    return engine.abilities().contains(Ability.COLUMN_POSITIONS)
        ? all
        : Differences.butForOrder(all);
  }

  private List<Difference> chosen(List<Difference> all) {
    refuseIdle(all, options.only());
    refuseIdle(all, options.except());
    List<Difference> kept = new IgnoreFilter(options.except()).without(all);
    return options.only().isEmpty() ? kept : new IgnoreFilter(options.only()).ignored(kept);
  }

  private static void refuseIdle(List<Difference> all, List<String> patterns) {
    for (String pattern : patterns) {
      if (!all.isEmpty() && new IgnoreFilter(List.of(pattern)).ignored(all).isEmpty()) {
        throw RefusedException.of(
            pattern + " names nothing that differs",
            "the pattern " + pattern,
            Advice.hint(
                "these differ: "
                    + String.join(
                        ", ", all.stream().limit(10).map(Difference::description).toList())));
      }
    }
  }
}
