package org.wornladder.service;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.wornladder.Advice;
import org.wornladder.DraftOptions;
import org.wornladder.DraftQuestions;
import org.wornladder.RefusedException;
import org.wornladder.StructureModel;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.change.ModelledStructure;
import org.wornladder.change.RenameCandidate;
import org.wornladder.change.SchemaChange;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Engines;
import org.wornladder.execution.ProjectContext;
import org.wornladder.execution.StandingObjects;
import org.wornladder.project.Environment;
import org.wornladder.schema.Snapshot;

/**
 * The structure that is wanted by a model, with what the model does not map.
 *
 * @param structure what is wanted
 * @param options with the new names that a person has confirmed
 * @param unanswered what may have another name, and stays beside the new one
 * @param unmapped what the model does not map, and that stays
 */
record WantedStructure(
    Snapshot structure,
    DraftOptions options,
    List<RenameCandidate> unanswered,
    List<Difference> unmapped) {

  /** Reads the model, and asks what becomes of what it does not map. */
  static WantedStructure of(
      ProjectContext project,
      Environment like,
      StructureModel model,
      Snapshot present,
      DraftOptions options,
      DraftQuestions questions) {
    StructureSources sources = new StructureSources(project);
    Snapshot alone =
        sources
            .scratch()
            .in(
                like,
                scratch -> {
                  sources.scratch().createSchemas(scratch);
                  return model.structure(scratch).withoutRights();
                });
    ModelledStructure modelled = ModelledStructure.of(present, alone);
    List<Difference> unmapped = counting(project, like, modelled.unmapped());
    refuseIdle(options.dropUnmapped(), unmapped);
    Snapshot bare = modelled.without(unmapped);
    Renames renames =
        Renames.named(options.renamed(), present, bare)
            .asking(Differences.between(present, bare), present, bare, questions);
    Map<String, String> renamed = new TreeMap<>(options.renamed());
    List<Difference> gone = new ArrayList<>();
    Set<String> open = new HashSet<>();
    renames.unanswered().forEach(one -> open.add(one.before()));
    List<Difference> stays = new ArrayList<>();
    for (Difference one : unmapped) {
      Optional<String> newName = newName(renames, one);
      newName.ifPresent(name -> renamed.put(one.fullName(), name));
      boolean dropped =
          newName.isPresent()
              || !open.contains(one.fullName()) && isDropped(one, options, questions);
      (dropped ? gone : stays).add(one);
    }
    boolean placesColumns = Engines.of(like).abilities().contains(Ability.COLUMN_POSITIONS);
    Snapshot wanted = modelled.without(gone);
    return new WantedStructure(
        placesColumns ? wanted : ModelledStructure.withNewColumnsLast(wanted, present),
        options.withRenamed(renamed),
        renames.unanswered(),
        stays);
  }

  private static boolean isDropped(Difference one, DraftOptions options, DraftQuestions questions) {
    boolean named = !new IgnoreFilter(options.dropUnmapped()).ignored(List.of(one)).isEmpty();
    return named || questions.isDropped(one.description()).orElse(false);
  }

  /** Without what others take care of: what is ignored, and what standing scripts make. */
  private static List<Difference> counting(
      ProjectContext project, Environment like, List<Difference> all) {
    StandingObjects standing = new StandingObjects(project.project(), Engines.of(like), like);
    return new StructureSources(project)
        .withoutIgnored(all).stream().filter(one -> standing.maker(one).isEmpty()).toList();
  }

  private static Optional<String> newName(Renames renames, Difference gone) {
    for (SchemaChange change : renames.changes()) {
      if (change instanceof SchemaChange.RenameTable table
          && gone.owner().isEmpty()
          && table.before().displayName().equals(gone.fullName())) {
        return Optional.of(table.target().displayName());
      }
      if (change instanceof SchemaChange.RenameColumn column
          && gone.fullName().endsWith("." + column.before())
          && gone.owner().filter(column.target()::equals).isPresent()) {
        return Optional.of(column.after());
      }
    }
    return Optional.empty();
  }

  private static void refuseIdle(List<String> patterns, List<Difference> unmapped) {
    for (String pattern : patterns) {
      if (new IgnoreFilter(List.of(pattern)).ignored(unmapped).isEmpty()) {
        throw RefusedException.of(
            pattern + " names nothing that the model leaves out",
            "the pattern " + pattern,
            Advice.hint(
                unmapped.isEmpty()
                    ? "it leaves out nothing"
                    : "it leaves out: "
                        + String.join(
                            ", ",
                            unmapped.stream().limit(10).map(Difference::description).toList())));
      }
    }
  }
}
