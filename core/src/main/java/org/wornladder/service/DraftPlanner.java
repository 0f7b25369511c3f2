package org.wornladder.service;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.TreeMap;
import org.wornladder.DraftOptions;
import org.wornladder.DraftQuestions;
import org.wornladder.RefusedException;
import org.wornladder.change.Accepted;
import org.wornladder.change.BothWays;
import org.wornladder.change.ChangeScript;
import org.wornladder.change.ChangeScript.Origin;
import org.wornladder.change.Ddl;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.change.Risk;
import org.wornladder.change.Risks;
import org.wornladder.change.SchemaChange;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.schema.Column;
import org.wornladder.schema.Snapshot;
import org.wornladder.scratch.ChangeProof;
import org.wornladder.scratch.ScratchRunner;

/**
 * Plans a draft in a scratch database, which makes the ladder's structure, carries out the renames,
 * and proves both ways.
 *
 * @param present what the ladder builds
 * @param wanted what it should build
 */
record DraftPlanner(
    ProjectContext project,
    DraftSelection selection,
    Renames renames,
    DraftOptions options,
    DraftQuestions questions,
    Snapshot present,
    Snapshot wanted) {
  private static final int MOST_EXAMPLES = 5;

  PlannedDraft plan(EnvironmentContext scratch) throws SQLException {
    IgnoreFilter ignored = new IgnoreFilter(project.project().settings().ignore());
    ChangeProof proof = new ChangeProof(scratch, ignored);
    if (!proof.make(present)) {
      new ScratchRunner(project).empty(scratch);
      new ScratchRunner(project).run(scratch, OptionalLong.empty());
    }
    Ddl ddl = scratch.session().ddl();
    List<String> renaming = statements(renames.changes(), ddl);
    proof.execute(renaming);
    Snapshot before = renames.isEmpty() ? present : proof.read();
    DraftSelection.Selected selected = selection.of(before, wanted);
    BothWays ways = BothWays.of(selected.differences(), before, wanted, ddl, Origin.TWO_DATABASES);
    Map<String, String> values = values(ways.up().written(), options, questions);
    refuseUnused(options.fills(), values.keySet());
    ChangeScript up = ways.up().filling(values, ddl);
    Snapshot after = Accepted.in(before, up.written());
    Optional<String> fault = proof.run("the way up", up.statements(), after);
    if (fault.isPresent() && !values.isEmpty()) {
      refuseWrongValue(values, fault.get());
    }
    List<String> back = statements(reversed(renames.changes()), ddl);
    boolean renamesBack = fault.isEmpty() && !renames.isEmpty();
    if (renamesBack) {
      proof.execute(back);
    }
    ChangeScript down =
        renamesBack
            ? wayBack(
                ignored.without(Differences.between(proof.read(), present)), proof.read(), ddl)
            : ways.down();
    if (fault.isEmpty()) {
      fault = proof.run("the way down", down.statements(), present);
    }
    List<Risk> risks = Risks.of(up, renames.changes(), before, after, ddl, change -> true);
    return new PlannedDraft(
        up,
        down,
        joined(renaming, up.statements()),
        joined(back, down.statements()),
        selected,
        risks,
        risks.stream().map(risk -> query(risk, ddl)).toList(),
        fault);
  }

  /** Behind the renames back: what refers to the new names may differ in other ways by now. */
  private ChangeScript wayBack(List<Difference> differences, Snapshot renamedBack, Ddl ddl) {
    return ChangeScript.of(differences, renamedBack, present, ddl, Origin.TWO_DATABASES);
  }

  private static Optional<String> query(Risk risk, Ddl ddl) {
    return risk.rows()
        .filter(rows -> risk.kind() != Risk.Kind.BLOCKS)
        .map(rows -> ddl.examples(rows, List.of(), MOST_EXAMPLES));
  }

  private static List<String> joined(List<String> first, List<String> second) {
    List<String> all = new ArrayList<>(first);
    all.addAll(second);
    return all;
  }

  private static List<String> statements(List<SchemaChange> changes, Ddl ddl) {
    return changes.stream().flatMap(change -> ddl.statements(change).stream()).toList();
  }

  private static List<SchemaChange> reversed(List<SchemaChange> changes) {
    List<SchemaChange> reversed = new ArrayList<>();
    changes.forEach(change -> reversed.add(change.inverse()));
    Collections.reverse(reversed);
    return reversed;
  }

  /** What the rows get that have no value in a column which they must have, by its full name. */
  static Map<String, String> values(
      List<Difference> written, DraftOptions options, DraftQuestions questions) {
    Map<String, String> values = new TreeMap<>();
    for (Difference difference : written) {
      if (becomesRequired(difference)) {
        String column = difference.fullName();
        given(column, options)
            .or(() -> questions.value(column))
            .ifPresent(sql -> values.put(column, sql));
      }
    }
    return values;
  }

  /** The value that was given for a column, in whatever case it was named. */
  private static Optional<String> given(String column, DraftOptions options) {
    return options.fills().entrySet().stream()
        .filter(one -> one.getKey().equalsIgnoreCase(column))
        .map(Map.Entry::getValue)
        .findFirst();
  }

  private static boolean becomesRequired(Difference difference) {
    if (difference.owner().isEmpty()
        || !(difference.after().orElse(difference.either()) instanceof Column column)
        || difference.after().isEmpty()) {
      return false;
    }
    boolean was = difference.before().filter(one -> !((Column) one).nullable()).isPresent();
    boolean filled =
        difference.before().isEmpty() && column.defaultValue().isPresent()
            || column.more(Column.GENERATED).isPresent()
            || column.more(Column.IDENTITY).isPresent();
    return !column.nullable() && !was && !filled;
  }

  /**
   * @throws RefusedException if a value is given for a column that does not become required
   */
  static void refuseUnused(Map<String, String> fills, Collection<String> used) {
    for (String column : fills.keySet()) {
      if (used.stream().noneMatch(column::equalsIgnoreCase)) {
        throw RefusedException.of(
            "no row needs a value in " + column + ": the change does not make it required",
            "the value for " + column,
            "name a column with its table, such as bin.code, that becomes required");
      }
    }
  }

  private static void refuseWrongValue(Map<String, String> values, String fault) {
    if (fault.contains("UPDATE") || fault.contains("INSERT INTO")) {
      throw RefusedException.of(
          fault,
          "the values for " + String.join(", ", values.keySet()),
          "give SQL of the column's type, texts in single quotes");
    }
  }
}
