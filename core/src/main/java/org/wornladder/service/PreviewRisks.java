package org.wornladder.service;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.regex.Pattern;
import org.wornladder.FoundRisk;
import org.wornladder.LadderException;
import org.wornladder.Preview;
import org.wornladder.change.ChangeScript;
import org.wornladder.change.ChangeScript.Origin;
import org.wornladder.change.Ddl;
import org.wornladder.change.Differences;
import org.wornladder.change.Risk;
import org.wornladder.change.Risks;
import org.wornladder.change.RowCheck;
import org.wornladder.change.SchemaChange;
import org.wornladder.engine.RecordedSession;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ExpectedState;
import org.wornladder.execution.Plan;
import org.wornladder.execution.ProjectContext;
import org.wornladder.execution.StatementRisks;
import org.wornladder.execution.Step;
import org.wornladder.journal.Entry;
import org.wornladder.journal.History;
import org.wornladder.project.Rung;
import org.wornladder.schema.Index;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.scratch.ScratchCopy;
import org.wornladder.scratch.ScratchLadder;
import org.wornladder.scratch.ScratchRunner;

/**
 * The risks of waiting rungs: found in the structures before and after each in a scratch database,
 * with the texts as a second source, and then asked of the database itself.
 *
 * @param context of the environment, open for reading
 * @param showRows whether keys of rows may be shown
 */
record PreviewRisks(
    ProjectContext project, EnvironmentContext context, History history, boolean showRows) {
  /** To make larger structures anew takes longer than a look at a plan may. */
  private static final int MOST_OBJECTS = 1_000;

  private static final int MOST_EXAMPLES = 5;

  Preview of(Plan plan, Preview preview) throws SQLException {
    if (plan.rungs().isEmpty()) {
      return preview;
    }
    ExpectedState state = ExpectedState.of(context, history);
    List<Entry> entries = context.journal().everything();
    Map<Long, List<Risk>> structural = new LinkedHashMap<>();
    List<Preview.CarriedOut> carriedOut = new ArrayList<>();
    Optional<String> textAlone = structural(plan, state, entries, structural, carriedOut);
    List<FoundRisk> risks = new ArrayList<>();
    for (Step.OfRung step : plan.rungs()) {
      risks.addAll(merged(step, structural, state.live()));
    }
    return new Preview(plan, preview.refusal(), risks, textAlone, carriedOut, measured(plan));
  }

  /** What the same rungs did in a rehearsal. */
  private List<Preview.Measured> measured(Plan plan) {
    ScratchRunner runner = new ScratchRunner(project);
    return plan.rungs().stream()
        .flatMap(step -> runner.measured(context.environment(), step.number()).stream())
        .toList();
  }

  /** Fills in what structures show; returns why that could not be done. */
  private Optional<String> structural(
      Plan plan,
      ExpectedState state,
      List<Entry> entries,
      Map<Long, List<Risk>> risks,
      List<Preview.CarriedOut> carriedOut) {
    if (state.expected().objects().size() > MOST_OBJECTS) {
      return Optional.of("the structure is too large to be made anew for a preview");
    }
    try {
      return tried(plan, state, entries, risks, carriedOut, false);
    } catch (LadderException e) {
      // It may need the rows that earlier rungs added, or may fail because of its own.
      risks.clear();
      carriedOut.clear();
    }
    try {
      return tried(plan, state, entries, risks, carriedOut, true);
    } catch (LadderException e) {
      return Optional.of(e.what());
    }
  }

  private Optional<String> tried(
      Plan plan,
      ExpectedState state,
      List<Entry> entries,
      Map<Long, List<Risk>> risks,
      List<Preview.CarriedOut> carriedOut,
      boolean withRows) {
    return new ScratchRunner(project)
        .in(
            context.environment(),
            scratch ->
                new ScratchCopy(project, scratch)
                        .make(state.expected().withoutRights(), entries, withRows)
                    ? run(scratch, plan, risks, carriedOut)
                    : Optional.of("the structure could not be made anew in a scratch database"));
  }

  private Optional<String> run(
      EnvironmentContext scratch,
      Plan plan,
      Map<Long, List<Risk>> risks,
      List<Preview.CarriedOut> carriedOut)
      throws SQLException {
    Ddl ddl = scratch.session().ddl();
    for (Step.OfRung step : plan.rungs()) {
      Snapshot before = scratch.structure().snapshot().withoutRights();
      List<RecordedSession.Recorded> log = run(scratch, step);
      carriedOut.addAll(carriedOut(step, log));
      Snapshot after = scratch.structure().snapshot().withoutRights();
      ChangeScript script =
          ChangeScript.of(
              Differences.between(before, after), before, after, ddl, Origin.ONE_DATABASE);
      risks.put(
          step.number(),
          Risks.of(script, List.of(), before, after, ddl, change -> isMade(change, log)));
    }
    return Optional.empty();
  }

  /** Runs a rung; returns what was run for it. */
  private List<RecordedSession.Recorded> run(EnvironmentContext scratch, Step.OfRung step)
      throws SQLException {
    Map<String, String> tables = new LinkedHashMap<>();
    scratch.journal().tables().forEach(name -> tables.put(name, name));
    RecordedSession recorded =
        new RecordedSession(
            scratch.session(),
            scratch.engine().quoting(),
            tables,
            RecordedSession.prefix(scratch.session()));
    ScratchLadder ladder =
        new ScratchRunner(project)
            .ladder(project.context(scratch.environment(), scratch.engine(), recorded.session()));
    ladder.run(ladder.up(step.number()));
    return recorded.log();
  }

  /**
   * Whether a rung makes a change in the way that locks: a table is only made anew if the rung
   * creates one of its name, an index is built beside writers by CONCURRENTLY, and a rule that is
   * NOT VALID reads no rows.
   */
  private static boolean isMade(SchemaChange change, List<RecordedSession.Recorded> log) {
    if (change instanceof SchemaChange.Rebuild) {
      String creation =
          "(?is)CREATE\\s+TABLE\\b.{0,40}?\\b" + quoted(change.target().name()) + ".*";
      return holds(log, creation);
    }
    if (change instanceof SchemaChange.AddPart add) {
      return add.part() instanceof Index index
          ? !holds(log, "(?is).*\\bCONCURRENTLY\\b.*" + quoted(index.name()) + ".*")
          : !holds(log, "(?is)ALTER\\s+TABLE\\b.*\\bNOT\\s+VALID");
    }
    return true;
  }

  private static String quoted(String name) {
    return Pattern.quote(name) + "(?![\\w$])";
  }

  private static boolean holds(List<RecordedSession.Recorded> log, String pattern) {
    Pattern compiled = Pattern.compile(pattern);
    return log.stream().anyMatch(one -> compiled.matcher(one.sql().strip()).matches());
  }

  /** The statements of a rung that others make up for. */
  private List<Preview.CarriedOut> carriedOut(
      Step.OfRung step, List<RecordedSession.Recorded> log) {
    Map<org.wornladder.sql.Statement, List<String>> parts = new LinkedHashMap<>();
    for (RecordedSession.Recorded one : log) {
      one.of().ifPresent(of -> parts.computeIfAbsent(of, key -> new ArrayList<>()).add(one.sql()));
    }
    return parts.entrySet().stream()
        .filter(part -> part.getValue().size() > 1)
        .map(
            part ->
                new Preview.CarriedOut(
                    step.number(),
                    part.getKey().place().line(),
                    part.getValue().stream().map(context.environment().secrets()::mask).toList()))
        .toList();
  }

  private List<FoundRisk> merged(Step.OfRung step, Map<Long, List<Risk>> structural, Snapshot live)
      throws SQLException {
    List<StatementRisks.Found> texts = StatementRisks.of(step.statements());
    List<FoundRisk> merged = new ArrayList<>();
    List<Risk> shown = structural.getOrDefault(step.number(), List.of());
    for (Risk risk : shown) {
      if (!isRename(risk, texts)) {
        OptionalInt line =
            texts.stream()
                .filter(text -> isSame(text.risk(), risk))
                .mapToInt(text -> text.statement().place().line())
                .findFirst();
        merged.add(found(step, risk, line, live));
      }
    }
    for (StatementRisks.Found text : texts) {
      boolean known = merged.stream().anyMatch(one -> isSame(one.risk(), text.risk()));
      boolean ofRows = text.risk().reason().equals("rows are gone");
      boolean wanted = !structural.containsKey(step.number()) || ofRows || text.isRename();
      if (wanted && !known) {
        merged.add(found(step, text.risk(), OptionalInt.of(text.statement().place().line()), live));
      }
    }
    return merged;
  }

  private static boolean isSame(Risk one, Risk other) {
    return one.kind() == other.kind() && one.subject().equalsIgnoreCase(other.subject());
  }

  /**
   * A name that is gone because a statement gave the thing another one: nothing is erased, and its
   * table is not made anew for it.
   */
  private static boolean isRename(Risk risk, List<StatementRisks.Found> texts) {
    return texts.stream()
        .map(StatementRisks.Found::risk)
        .filter(StatementRisks::isRename)
        .anyMatch(
            text ->
                text.subject().equalsIgnoreCase(risk.subject())
                    || risk.kind() == Risk.Kind.BLOCKS
                        && text.subject()
                            .startsWith(risk.subject().replace("table ", "column ") + "."));
  }

  private FoundRisk found(Step.OfRung step, Risk risk, OptionalInt line, Snapshot live)
      throws SQLException {
    boolean accepted =
        project
            .project()
            .rung(step.number())
            .map(Rung::script)
            .filter(script -> script.header().accepts().contains(risk.kind().label()))
            .isPresent();
    Optional<RowCheck> check = risk.rows().filter(rows -> canBeAsked(rows, live));
    if (check.isEmpty()) {
      return new FoundRisk(
          step.number(),
          risk,
          line,
          accepted,
          OptionalLong.empty(),
          OptionalLong.empty(),
          List.of());
    }
    Ddl ddl = context.session().ddl();
    long rows = Long.parseLong(first(ddl.count(check.get())).get(0));
    List<String> key =
        live.object(check.get().table())
            .map(table -> ((Table) table).primaryKey())
            .orElse(List.of());
    List<String> examples =
        showRows && rows > 0 && risk.kind() == Risk.Kind.MAY_FAIL
            ? first(ddl.examples(check.get(), key, MOST_EXAMPLES))
            : List.of();
    OptionalLong bytes =
        risk.kind() == Risk.Kind.BLOCKS
            ? bytes(ddl.size(check.get().table()))
            : OptionalLong.empty();
    return new FoundRisk(
        step.number(), risk, line, accepted, OptionalLong.of(rows), bytes, examples);
  }

  private OptionalLong bytes(Optional<String> query) throws SQLException {
    return query.isEmpty()
        ? OptionalLong.empty()
        : OptionalLong.of(Long.parseLong(first(query.get()).get(0)));
  }

  /** Whether the database has the table and its columns already. */
  private static boolean canBeAsked(RowCheck check, Snapshot live) {
    Optional<Table> table =
        live.object(check.table()).filter(Table.class::isInstance).map(Table.class::cast);
    return table.isPresent()
        && live.object(check instanceof RowCheck.Orphans orphans ? orphans.target() : check.table())
            .isPresent()
        && check.columns().stream().allMatch(name -> table.get().column(name).isPresent());
  }

  /** Rows, each as its values with commas. */
  private List<String> first(String query) throws SQLException {
    List<String> values = new ArrayList<>();
    try (Statement sql = context.session().connection().createStatement();
        ResultSet rows = sql.executeQuery(query)) {
      int columns = rows.getMetaData().getColumnCount();
      while (rows.next()) {
        List<String> row = new ArrayList<>();
        for (int i = 1; i <= columns; i++) {
          row.add(String.valueOf(rows.getString(i)));
        }
        values.add(String.join(", ", row));
      }
    }
    return values;
  }
}
