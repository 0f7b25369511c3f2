package org.wornladder.service;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.DraftOptions;
import org.wornladder.DraftQuestions;
import org.wornladder.RefusedException;
import org.wornladder.change.Ddl;
import org.wornladder.change.Difference;
import org.wornladder.change.GentleStatement;
import org.wornladder.change.SchemaChange;
import org.wornladder.change.StageTargets;
import org.wornladder.engine.Engines;
import org.wornladder.execution.ProjectContext;
import org.wornladder.project.Environment;
import org.wornladder.project.RungDraft;
import org.wornladder.schema.Column;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.scratch.ScratchRunner;

/**
 * Plans a change as a series of rungs, so that the programs of before and after can both be at work
 * between any two of them: what comes, values for it in batches, demands on rows, and what goes.
 *
 * @param copies the columns that have another name: the new one gets the values of the old one
 * @param fills SQL for rows without a value, by the column's full name
 */
record StagedDraft(
    ProjectContext project,
    Environment like,
    DraftOptions options,
    Snapshot present,
    Snapshot wanted,
    List<Difference> differences,
    List<SchemaChange.RenameColumn> copies,
    Map<String, String> fills,
    Ddl ddl) {
  private static final int BATCH = 5_000;

  /**
   * One of the rungs.
   *
   * @param words behind those of the whole change
   */
  record Stage(String words, RungDraft rung) {}

  /** The rungs in their order. */
  List<Stage> stages() {
    StageTargets targets = StageTargets.of(differences, present, wanted);
    List<Stage> stages = new ArrayList<>();
    plain(present, targets.expanded(), Map.of(), "expand", stages);
    indexes(targets, stages);
    fill(targets, stages);
    require(targets, stages);
    contract(targets, stages);
    return stages;
  }

  /** A step between two structures, proved by itself; empty if they are the same. */
  private Optional<PlannedDraft> planned(Snapshot from, Snapshot to, Map<String, String> values) {
    DraftOptions step =
        new DraftOptions(
            options.words(), options.from(), false, false, List.of(), List.of(), Map.of(), values);
    DraftSelection selection = new DraftSelection(project, like, step);
    if (selection.of(from, to).differences().isEmpty()) {
      return Optional.empty();
    }
    Renames none = new Renames(List.of(), Set.of(), List.of());
    DraftPlanner planner =
        new DraftPlanner(project, selection, none, step, DraftQuestions.UNANSWERED, from, to);
    PlannedDraft planned = new ScratchRunner(project).in(like, planner::plan);
    if (planned.notProved().isPresent()) {
      throw RefusedException.of(
          "a step of the staged change is not proved: " + planned.notProved().get(),
          "schema/",
          "draft it in one rung, without stages");
    }
    return Optional.of(planned);
  }

  private void plain(
      Snapshot from, Snapshot to, Map<String, String> values, String words, List<Stage> stages) {
    planned(from, to, values).ifPresent(step -> stages.add(new Stage(words, step.rung(List.of()))));
  }

  /** Where the engine can, indexes are built while others write, outside of a transaction. */
  private void indexes(StageTargets targets, List<Stage> stages) {
    Optional<PlannedDraft> step = planned(targets.expanded(), targets.indexed(), Map.of());
    if (step.isEmpty()) {
      return;
    }
    List<GentleStatement> up = gentle(step.get().up());
    List<GentleStatement> down = gentle(step.get().down());
    boolean outside = up.stream().anyMatch(GentleStatement::outside);
    stages.add(
        new Stage(
            "indexes",
            rung(
                outside ? List.of("run: outside-transaction") : List.of(),
                List.of("writers go on while these are built, if the database can do that"),
                up.stream().flatMap(one -> one.up().stream()).toList(),
                down.stream().flatMap(one -> one.up().stream()).toList())));
  }

  private List<GentleStatement> gentle(List<String> statements) {
    return statements.stream().map(ddl::gentle).toList();
  }

  private static RungDraft rung(
      List<String> directives, List<String> remarks, List<String> up, List<String> down) {
    return new RungDraft(RungDraft.lines(up), RungDraft.lines(down), Optional.empty(), remarks)
        .with(directives);
  }

  /** Values for the columns that will need one, each in a rung of its own, in batches. */
  private void fill(StageTargets targets, List<Stage> stages) {
    values(targets)
        .forEach(
            (column, value) -> {
              ObjectId id = tableOf(targets.indexed(), column);
              Table table = (Table) targets.indexed().object(id).orElseThrow();
              String name = column.substring(column.lastIndexOf('.') + 1);
              boolean isNew =
                  present
                      .object(id)
                      .map(Table.class::cast)
                      .flatMap(one -> one.column(name))
                      .isEmpty();
              stages.add(new Stage("fill " + name, filling(table, name, value, isNew)));
            });
  }

  private RungDraft filling(Table table, String column, String value, boolean isNew) {
    SchemaChange change = new SchemaChange.FillNulls(table.id(), column, value);
    List<String> up = ddl.statements(change);
    List<String> directives =
        table.primaryKey().size() == 1
            ? List.of("in-batches-of: " + BATCH + " by " + table.primaryKey().get(0))
            : List.of();
    List<String> down =
        isNew
            ? ddl.statements(new SchemaChange.FillNulls(table.id(), column, "NULL")).stream()
                .map(one -> one.replaceFirst("(?s)\\s+WHERE\\b.*", ""))
                .toList()
            : List.of();
    Optional<String> oneWay =
        isNew
            ? Optional.empty()
            : Optional.of("which rows had no value before is not known any more");
    return new RungDraft(RungDraft.lines(up), RungDraft.lines(down), oneWay, List.of())
        .with(directives);
  }

  /** SQL by the columns' full names: given values, and those of columns with another name. */
  private Map<String, String> values(StageTargets targets) {
    Map<String, String> values = new LinkedHashMap<>(fills);
    copies.forEach(
        copy ->
            values.put(copy.target().displayName() + "." + copy.after(), quoted(copy.before())));
    values.keySet().removeIf(column -> tableOfIfThere(targets.indexed(), column).isEmpty());
    return values;
  }

  private String quoted(String name) {
    return Engines.of(like).quoting().name(name);
  }

  private static Optional<ObjectId> tableOfIfThere(Snapshot structure, String column) {
    String table = column.substring(0, column.lastIndexOf('.'));
    return structure.objects().stream()
        .filter(Table.class::isInstance)
        .map(object -> object.id())
        .filter(id -> id.displayName().equalsIgnoreCase(table))
        .findFirst();
  }

  private static ObjectId tableOf(Snapshot structure, String column) {
    return tableOfIfThere(structure, column).orElseThrow();
  }

  /** What rows must satisfy; rows that came without a value since are given it here once more. */
  private void require(StageTargets targets, List<Stage> stages) {
    Map<String, String> values = values(targets);
    Snapshot wanted = targets.required();
    values.keySet().removeIf(column -> !isRequired(targets.indexed(), wanted, column));
    Optional<PlannedDraft> step = planned(targets.indexed(), wanted, values);
    if (step.isEmpty()) {
      return;
    }
    List<GentleStatement> up = gentle(step.get().up());
    List<String> laterUp = up.stream().flatMap(one -> one.laterUp().stream()).toList();
    if (laterUp.isEmpty()) {
      RungDraft rung = step.get().rung(List.of());
      stages.add(
          new Stage(
              "require",
              new RungDraft(rung.up(), rung.down(), rung.noWayDown(), first(rung.remarks()))));
      return;
    }
    List<String> first = up.stream().flatMap(one -> one.up().stream()).toList();
    List<String> back = new ArrayList<>();
    up.forEach(one -> back.addAll(0, one.down()));
    List<String> laterDown = new ArrayList<>();
    up.forEach(one -> laterDown.addAll(0, one.laterDown()));
    plainBack(step.get(), up).forEach(back::add);
    stages.add(
        new Stage("require", rung(List.of(), first(List.of("no row is read yet")), first, back)));
    stages.add(
        new Stage(
            "validate",
            rung(
                List.of(),
                List.of("rows are read while others read and write"),
                laterUp,
                laterDown)));
  }

  private static List<String> first(List<String> remarks) {
    List<String> all = new ArrayList<>(remarks);
    all.add(0, "run this when every program writes what is required here");
    return all;
  }

  /** The statements back of those that have no gentle form. */
  private List<String> plainBack(PlannedDraft step, List<GentleStatement> up) {
    List<String> plain = new ArrayList<>(step.down());
    List<String> known = new ArrayList<>();
    up.forEach(one -> known.addAll(one.down()));
    plain.removeIf(one -> known.contains(one) || one.matches("(?s)ALTER TABLE .* DROP NOT NULL"));
    return plain;
  }

  private static boolean isRequired(Snapshot before, Snapshot after, String column) {
    String name = column.substring(column.lastIndexOf('.') + 1);
    return column(before, column, name).filter(Column::nullable).isPresent()
        && column(after, column, name).filter(one -> !one.nullable()).isPresent();
  }

  private static Optional<Column> column(Snapshot structure, String full, String name) {
    return tableOfIfThere(structure, full)
        .flatMap(structure::object)
        .map(Table.class::cast)
        .flatMap(table -> table.column(name));
  }

  /** What goes, once no program uses it; values that the program of before wrote are taken over. */
  private void contract(StageTargets targets, List<Stage> stages) {
    Optional<PlannedDraft> step = planned(targets.required(), targets.wanted(), Map.of());
    if (step.isEmpty()) {
      return;
    }
    RungDraft rung = step.get().rung(List.of());
    List<String> up = new ArrayList<>();
    List<String> down = new ArrayList<>();
    for (SchemaChange.RenameColumn copy : copies) {
      up.addAll(statements(copy.target(), copy.after(), copy.before()));
      down.addAll(statements(copy.target(), copy.before(), copy.after()));
    }
    List<String> allUp = new ArrayList<>(RungDraft.lines(up));
    allUp.addAll(rung.up());
    List<String> allDown = new ArrayList<>(rung.down());
    allDown.addAll(RungDraft.lines(down));
    List<String> remarks = new ArrayList<>(rung.remarks());
    remarks.add(0, "run this when no program uses what goes");
    stages.add(new Stage("contract", new RungDraft(allUp, allDown, Optional.empty(), remarks)));
  }

  private List<String> statements(ObjectId table, String to, String from) {
    SchemaChange change = new SchemaChange.FillNulls(table, to, quoted(from));
    return ddl.statements(change);
  }
}
