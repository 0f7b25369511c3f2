package org.wornladder.change;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.TreeSet;
import org.wornladder.change.ChangeStep.Stage;
import org.wornladder.change.DependencyIndex.Dependent;
import org.wornladder.change.DependencyIndex.Reference;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Dependency;
import org.wornladder.schema.Described;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.Right;
import org.wornladder.schema.Sequence;

/**
 * Changes and which of them must come before others: what goes, by what depended on what before
 * them, and what comes, by what depends on what after them.
 */
final class ChangeGraph {
  private final DependencyIndex before;
  private final List<ChangeStep> steps = new ArrayList<>();
  private final Map<ObjectId, List<ChangeStep>> byTarget = new LinkedHashMap<>();

  private ChangeGraph(Collection<SchemaChange> changes, DependencyIndex before) {
    this.before = before;
    for (SchemaChange change : changes) {
      ChangeStep step = new ChangeStep(change, steps.size());
      steps.add(step);
      byTarget.computeIfAbsent(change.target(), id -> new ArrayList<>()).add(step);
    }
  }

  /**
   * The changes in an order that runs.
   *
   * @param ordered all but those that are in circles
   * @param circular the changes that need each other, or others in a circle
   */
  record Order(List<SchemaChange> ordered, List<SchemaChange> circular) {}

  /**
   * @param before who depends on what before the changes
   */
  static Order order(Collection<SchemaChange> changes, DependencyIndex before) {
    ChangeGraph graph = new ChangeGraph(changes, before);
    graph.steps.forEach(graph::connect);
    graph.byTarget.values().forEach(ChangeGraph::connectParts);
    graph.connectNames();
    return graph.sorted();
  }

  private Order sorted() {
    PriorityQueue<ChangeStep> ready = new PriorityQueue<>(ChangeStep.READABLE);
    Set<ChangeStep> left = new TreeSet<>(ChangeStep.READABLE);
    left.addAll(steps);
    steps.stream().filter(ChangeStep::isReady).forEach(ready::add);
    List<SchemaChange> ordered = new ArrayList<>();
    while (!ready.isEmpty()) {
      ChangeStep step = ready.poll();
      left.remove(step);
      ordered.add(step.change());
      step.next().stream().filter(ChangeStep::released).forEach(ready::add);
    }
    return new Order(ordered, left.stream().map(ChangeStep::change).toList());
  }

  private List<ChangeStep> of(ObjectId target) {
    return byTarget.getOrDefault(target, List.of());
  }

  private void connect(ChangeStep step) {
    SchemaChange change = step.change();
    if (change instanceof SchemaChange.Drop drop) {
      goes(step, drop.object());
    } else if (change instanceof SchemaChange.Create create) {
      comes(step, create.object());
    } else if (change instanceof SchemaChange.Alter alter) {
      needs(step, alter.after().dependsOn());
      ownerComes(step, alter.after());
    } else if (change instanceof SchemaChange.Rebuild rebuild) {
      dependentsGo(step, before.on(rebuild.target()), false);
      before.of(rebuild.target()).forEach(owned -> goesBefore(owned.id(), step));
      needs(step, rebuild.after().dependsOn());
      rebuild.after().parts().forEach(part -> needs(step, part.dependsOn()));
    } else if (change instanceof SchemaChange.DropPart drop) {
      partGoes(step, drop.target(), drop.part(), true);
    } else if (change instanceof SchemaChange.AlterPart alter) {
      partGoes(step, alter.target(), alter.before(), false);
      partComes(step, alter.target(), alter.after());
    } else if (change instanceof SchemaChange.AddPart add) {
      partComes(step, add.target(), add.part());
      placeComes(step, add.target(), add.position());
    } else if (change instanceof SchemaChange.RenameTable rename) {
      of(rename.target()).stream().filter(other -> other != step).forEach(step::before);
    }
  }

  private void goes(ChangeStep step, DatabaseObject object) {
    dependentsGo(step, before.on(object.id()), true);
    before.of(object.id()).forEach(owned -> goesBefore(owned.id(), step));
    for (Reference reference : before.to(object.id())) {
      referenceGoes(step, reference);
    }
    schemaGoes(step, object.id());
    if (object instanceof Right right) {
      objectComes(step, right.object());
    }
  }

  /** What depends on an object goes, or stops to depend on it, before the object goes. */
  private void dependentsGo(ChangeStep step, List<Dependent> dependents, boolean whole) {
    for (Dependent dependent : dependents) {
      for (ChangeStep other : of(dependent.object().id())) {
        boolean goes =
            other.change() instanceof SchemaChange.Drop
                || (whole && other.change() instanceof SchemaChange.Rebuild)
                || (whole
                    && dependent.part().isEmpty()
                    && other.change() instanceof SchemaChange.Alter)
                || dependent
                    .part()
                    .filter(part -> partGoes(other.change(), part, whole))
                    .isPresent();
        if (goes) {
          other.before(step);
        }
      }
    }
  }

  private static boolean partGoes(SchemaChange change, Part part, boolean altered) {
    return (change instanceof SchemaChange.DropPart drop && drop.part().equals(part))
        || (change instanceof SchemaChange.AlterPart alter
            && (altered || alter.before() instanceof Column)
            && alter.before().equals(part));
  }

  private void goesBefore(ObjectId owned, ChangeStep step) {
    of(owned).stream()
        .filter(other -> other.change() instanceof SchemaChange.Drop)
        .forEach(other -> other.before(step));
  }

  private void referenceGoes(ChangeStep step, Reference reference) {
    for (ChangeStep other : of(reference.table().id())) {
      if (other.change() instanceof SchemaChange.Drop
          || (other.change() instanceof SchemaChange.Rebuild
              && step.change() instanceof SchemaChange.Drop)
          || partGoes(other.change(), reference.key(), true)) {
        other.before(step);
      }
    }
  }

  private void schemaGoes(ChangeStep step, ObjectId id) {
    if (!id.schema().isEmpty()) {
      of(ObjectId.of(Kind.SCHEMA, id.schema())).stream()
          .filter(other -> other.change() instanceof SchemaChange.Drop)
          .forEach(step::before);
    }
  }

  private void partGoes(ChangeStep step, ObjectId owner, Part part, boolean wholly) {
    if (part instanceof Column column) {
      dependentsGo(step, before.on(owner, column.name()), wholly);
    }
    List<Reference> references = part instanceof ForeignKey ? List.of() : before.to(owner);
    for (Reference reference : references) {
      for (ChangeStep other : of(reference.table().id())) {
        boolean goes = other.change() instanceof SchemaChange.Drop && wholly;
        if (goes || partGoes(other.change(), reference.key(), wholly)) {
          other.before(step);
        }
      }
    }
  }

  private void comes(ChangeStep step, DatabaseObject object) {
    needs(step, object.dependsOn());
    object.parts().forEach(part -> needs(step, part.dependsOn()));
    ownerComes(step, object);
    if (object instanceof Right right) {
      objectComes(step, right.object());
    }
    objectComes(step, ObjectId.of(Kind.SCHEMA, object.id().schema()));
  }

  private void ownerComes(ChangeStep step, DatabaseObject object) {
    object.owner().ifPresent(owner -> wholeComes(step, owner));
    if (object instanceof Sequence sequence && step.change() instanceof SchemaChange.Alter) {
      sequence.ownerTable().ifPresent(table -> wholeComes(step, table));
    }
  }

  /** Whatever makes an object and its columns what they are to be runs before a step. */
  private void wholeComes(ChangeStep step, ObjectId id) {
    for (ChangeStep other : of(id)) {
      boolean column =
          other.stage() == Stage.COLUMN_COMES
              || other.stage() == Stage.COLUMN_CHANGES
              || other.stage() == Stage.COLUMN_IS_RENAMED
              || other.stage() == Stage.COLUMN_GOES;
      if (column || isMade(other.change())) {
        other.before(step);
      }
    }
  }

  private static boolean isMade(SchemaChange change) {
    return change instanceof SchemaChange.Create
        || change instanceof SchemaChange.Rebuild
        || change instanceof SchemaChange.RenameTable
        || (change instanceof SchemaChange.Alter alter && alter.target().kind() != Kind.SEQUENCE);
  }

  private List<ChangeStep> created(ObjectId id) {
    return of(id).stream().filter(other -> isMade(other.change())).toList();
  }

  private void objectComes(ChangeStep step, ObjectId id) {
    created(id).forEach(other -> other.before(step));
  }

  private void needs(ChangeStep step, List<Dependency> dependencies) {
    for (Dependency dependency : dependencies) {
      if (dependency.target().equals(step.change().target())) {
        continue;
      }
      if (dependency.column().isEmpty()) {
        wholeComes(step, dependency.target());
      } else {
        objectComes(step, dependency.target());
        of(dependency.target()).stream()
            .filter(other -> makesColumn(other.change(), dependency.column()))
            .forEach(other -> other.before(step));
      }
    }
  }

  private static boolean makesColumn(SchemaChange change, String column) {
    return (change instanceof SchemaChange.AddPart add && isColumn(add.part(), column))
        || (change instanceof SchemaChange.AlterPart alter && isColumn(alter.after(), column))
        || (change instanceof SchemaChange.RenameColumn rename
            && rename.after().equalsIgnoreCase(column));
  }

  private static boolean isColumn(Described part, String name) {
    return part instanceof Column && part.name().equalsIgnoreCase(name);
  }

  private void partComes(ChangeStep step, ObjectId owner, Part part) {
    needs(step, part.dependsOn());
    columnNeeds(step, owner, part);
    objectComes(step, owner);
    if (part instanceof ForeignKey key) {
      objectComes(step, key.target());
      for (ChangeStep other : of(key.target())) {
        if (other.stage() != Stage.FOREIGN_KEY_COMES && other.stage() != Stage.NONE) {
          other.before(step);
        }
      }
    }
  }

  /** The column behind which a new one stands is there first. */
  private void placeComes(
      ChangeStep step, ObjectId owner, Optional<SchemaChange.Position> position) {
    position
        .flatMap(SchemaChange.Position::after)
        .ifPresent(
            before ->
                of(owner).stream()
                    .filter(other -> other.change() instanceof SchemaChange.AddPart)
                    .filter(other -> makesColumn(other.change(), before))
                    .forEach(other -> other.before(step)));
  }

  /** A column that is computed of others of its table comes after those. */
  private void columnNeeds(ChangeStep step, ObjectId owner, Part part) {
    if (part instanceof Column) {
      for (Dependency dependency : part.dependsOn()) {
        if (dependency.target().equals(owner) && !dependency.column().equals(part.name())) {
          of(owner).stream()
              .filter(other -> makesColumn(other.change(), dependency.column()))
              .forEach(other -> other.before(step));
        }
      }
    }
  }

  /** The changes of one object's parts, stage by stage. */
  private static void connectParts(List<ChangeStep> ofObject) {
    Map<Stage, List<ChangeStep>> stages = new HashMap<>();
    ofObject.stream()
        .filter(step -> step.stage() != Stage.NONE)
        .forEach(step -> stages.computeIfAbsent(step.stage(), key -> new ArrayList<>()).add(step));
    List<Stage> there = stages.keySet().stream().sorted().toList();
    for (int i = 0; i + 1 < there.size(); i++) {
      for (ChangeStep early : stages.get(there.get(i))) {
        stages.get(there.get(i + 1)).forEach(early::before);
      }
    }
    connectColumns(stages.getOrDefault(Stage.COLUMN_CHANGES, List.of()));
  }

  /** Several changes of one column, in the order in which they were found. */
  private static void connectColumns(List<ChangeStep> changes) {
    Map<String, ChangeStep> last = new HashMap<>();
    for (ChangeStep step : changes) {
      String column = ((SchemaChange.AlterPart) step.change()).after().name();
      Optional.ofNullable(last.put(column, step)).ifPresent(earlier -> earlier.before(step));
    }
  }

  /** What had a name goes before what gets it. */
  private void connectNames() {
    Map<String, List<ChangeStep>> leaving = new HashMap<>();
    Set<ChangeStep> coming = new HashSet<>();
    for (ChangeStep step : steps) {
      name(step, true)
          .ifPresent(name -> leaving.computeIfAbsent(name, key -> new ArrayList<>()).add(step));
      if (name(step, false).isPresent()) {
        coming.add(step);
      }
    }
    for (ChangeStep step : coming) {
      leaving
          .getOrDefault(name(step, false).orElseThrow(), List.of())
          .forEach(other -> other.before(step));
    }
  }

  private static Optional<String> name(ChangeStep step, boolean leaves) {
    SchemaChange change = step.change();
    if (leaves ? change instanceof SchemaChange.Drop : change instanceof SchemaChange.Create) {
      return Optional.of(space(change.target().kind()) + change.target().displayName())
          .map(name -> name.toLowerCase(Locale.ROOT));
    }
    if (change instanceof SchemaChange.RenameTable rename) {
      ObjectId id = leaves ? rename.before() : rename.target();
      return Optional.of(space(Kind.TABLE) + id.displayName().toLowerCase(Locale.ROOT));
    }
    Optional<Part> part =
        leaves && change instanceof SchemaChange.DropPart drop
            ? Optional.of(drop.part())
            : !leaves && change instanceof SchemaChange.AddPart add
                ? Optional.of(add.part())
                : Optional.empty();
    return part.filter(one -> one.kind() == Kind.INDEX)
        .map(one -> space(Kind.INDEX) + one.name().toLowerCase(Locale.ROOT));
  }

  /** Kinds among which a name is there once. */
  private static String space(Kind kind) {
    return switch (kind) {
      case TABLE,
          COLLECTION,
          VIEW,
          MATERIALISED_VIEW,
          SEQUENCE,
          INDEX,
          ENUM,
          DOMAIN,
          COMPOSITE,
          RANGE ->
          "relation ";
      case FUNCTION, PROCEDURE, AGGREGATE -> "routine ";
      default -> kind.label() + " ";
    };
  }
}
