package org.wornladder.service;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.ApplyOptions;
import org.wornladder.ClientSqlScript;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.SeedListener;
import org.wornladder.change.ExpectedStructure;
import org.wornladder.change.SqlScript;
import org.wornladder.engine.Access;
import org.wornladder.engine.ClientScript;
import org.wornladder.engine.ClientVariables;
import org.wornladder.engine.RecordedSession;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ExpectedState;
import org.wornladder.execution.Plan;
import org.wornladder.execution.ProjectContext;
import org.wornladder.execution.Step;
import org.wornladder.journal.Entry;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.journal.JournalHead;
import org.wornladder.journal.Snapshots;
import org.wornladder.project.Condition;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;
import org.wornladder.project.Rung;
import org.wornladder.project.Value;
import org.wornladder.schema.Snapshot;
import org.wornladder.scratch.ScratchCopy;
import org.wornladder.scratch.ScratchLadder;
import org.wornladder.scratch.ScratchRunner;
import org.wornladder.seed.Seeder;

/**
 * Writes what apply would do as one script for the engine's own client, the journal's entries
 * included. The run itself takes place in a scratch database with the same structure and journal,
 * and the script is the record of it.
 */
public record ScriptService(ProjectContext project) {
  /** What the entries say of the tool that made them. */
  private static final String AS_SCRIPT = ", as a script";

  /** What the script begins with. */
  private record Ground(
      Snapshot live,
      Snapshot expected,
      List<Entry> entries,
      Map<String, String> tables,
      String prefix,
      boolean journalIsThere,
      Optional<JournalHead> head) {
    /** A query for 1 if the journal is where it was when the script was written, otherwise 0. */
    private String heads(EnvironmentContext context) {
      List<String> names = context.journal().tables();
      if (head.isPresent()) {
        return "SELECT count(*) FROM %s WHERE number = 0 AND entry = %d AND fingerprint = '%s'"
            .formatted(tables.get(names.get(1)), head.get().number(), head.get().hash());
      }
      return journalIsThere
          ? "SELECT CASE WHEN count(*) = 0 THEN 1 ELSE 0 END FROM " + tables.get(names.get(0))
          : ClientScript.isMissing(context.engine(), names.get(0));
    }
  }

  /** What a scratch run leaves. */
  private record Ran(
      List<RecordedSession.Recorded> log, Snapshot expected, long lastEntry, String salt) {}

  /**
   * @param content what the script does
   */
  public ClientSqlScript script(
      Optional<String> environment, ApplyOptions options, ClientSqlScript.Content content) {
    return project.in(environment, Access.READ, context -> script(context, options, content));
  }

  private ClientSqlScript script(
      EnvironmentContext real, ApplyOptions options, ClientSqlScript.Content content)
      throws SQLException {
    boolean down = content == ClientSqlScript.Content.DOWN;
    ClientVariables variables = new ClientVariables(real.engine());
    EnvironmentContext context =
        project.context(marked(real.environment(), variables), real.engine(), real.session());
    History history = context.provenHistory();
    Plan plan =
        down
            ? new RollbackService(project).plan(context, history, back(options))
            : new ApplyService(project).plan(context, history, options);
    refuseUnknowable(real, plan);
    if (!down) {
      Optional<RefusedException> refusal =
          new ApplyService(project).refusal(context, history, plan, options);
      if (refusal.isPresent()) {
        throw refusal.get();
      }
    }
    Map<String, String> tables = new LinkedHashMap<>();
    context.journal().tables().forEach(name -> tables.put(name, context.session().quoted(name)));
    ExpectedState state = ExpectedState.of(real, history);
    List<Entry> entries = context.journal().everything();
    Ground ground =
        new Ground(
            state.live(),
            state.expected(),
            entries,
            tables,
            RecordedSession.prefix(context.session()),
            context.session().exists(journal(context)),
            entries.isEmpty() ? Optional.empty() : Optional.of(context.journal().head()));
    Ran ran =
        new ScratchRunner(project)
            .in(context.environment(), scratch -> run(scratch, ground, plan, options, content));
    String text = text(real, ground, ran, variables);
    return new ClientSqlScript(
        context.environment().name(),
        context.engine().name(),
        text,
        plan.rungs().stream().map(Step.OfRung::label).toList(),
        variables.used());
  }

  /** The environment with a marker in place of each secret. */
  private static Environment marked(Environment environment, ClientVariables variables) {
    Map<String, Value> values = new LinkedHashMap<>();
    environment
        .values()
        .forEach(
            (name, value) ->
                values.put(
                    name,
                    value.secret()
                        ? new Value(variables.marker(name, value.text()), true)
                        : value));
    return environment.withValues(values);
  }

  private static Condition.Presence journal(EnvironmentContext context) {
    String table = context.journal().tables().get(0);
    return new Condition.Presence(Condition.Kind.TABLE, table, "", true, "");
  }

  private ProjectContext scripted() {
    return new ProjectContext(
        project.project(), project.settings().as(project.settings().tool() + AS_SCRIPT));
  }

  private static RollbackOptions back(ApplyOptions options) {
    return options.to().isPresent()
        ? RollbackOptions.builder().to(options.to().getAsLong()).build()
        : RollbackOptions.builder().last(1).build();
  }

  private void refuseUnknowable(EnvironmentContext context, Plan plan) {
    String where = "environment " + context.environment().name();
    for (Step.OfRung step : plan.rungs()) {
      boolean asksRows =
          project
              .project()
              .rung(step.number())
              .map(Rung::script)
              .filter(
                  script ->
                      script.header().conditions().stream()
                          .anyMatch(Condition.Query.class::isInstance))
              .isPresent();
      if (asksRows) {
        throw RefusedException.of(
            step.label() + " has a when-sql condition, which only its turn can decide",
            step.source(),
            Advice.of(Advice.Code.PREVIEW, context.environment().name()));
      }
    }
    boolean secret =
        plan.steps().stream()
            .flatMap(step -> step.statements().stream())
            .anyMatch(statement -> context.environment().secrets().isIn(statement.text()));
    if (secret) {
      throw RefusedException.of(
          "a statement holds the environment's password, which would stand in the script in clear",
          where,
          Advice.hint("run that rung by the tool itself"));
    }
  }

  private Ran run(
      EnvironmentContext scratch,
      Ground ground,
      Plan plan,
      ApplyOptions options,
      ClientSqlScript.Content content)
      throws SQLException {
    if (!new ScratchCopy(project, scratch)
        .make(ground.expected().withoutRights(), ground.entries(), true)) {
      throw RefusedException.of(
          "the structure could not be made anew in a scratch database, so the script cannot be"
              + " tried",
          "environment " + scratch.environment().name(),
          Advice.hint("apply without a script"));
    }
    Snapshot before = scratch.structure().snapshot();
    RecordedSession recorded =
        new RecordedSession(
            scratch.session(), scratch.engine().quoting(), ground.tables(), ground.prefix());
    EnvironmentContext context =
        scripted().context(scratch.environment(), scratch.engine(), recorded.session());
    ScratchLadder ladder = new ScratchRunner(project).ladder(context);
    boolean up = plan.direction() == Direction.UP;
    ladder.run(up ? ladder.limited(plan) : ladder.down(back(options)));
    // Before there are the temporary tables of seeds, which are no part of it.
    Snapshot after = scratch.structure().snapshot();
    if (content == ClientSqlScript.Content.UP_AND_SEEDS) {
      seed(context);
    }
    return new Ran(
        recorded.log(),
        ExpectedStructure.after(ground.expected(), before, after),
        context.journal().lastInDatabase(),
        context.snapshots().salt());
  }

  private void seed(EnvironmentContext context) throws SQLException {
    History history = context.journal().read(Depth.WHOLE);
    new Seeder(new SeedService(scripted()).ground(context, history), SeedListener.SILENT)
        .writeWhateverStands(context.journal());
  }

  private String text(EnvironmentContext context, Ground ground, Ran ran, ClientVariables variables)
      throws SQLException {
    String work = work(context, ran, variables);
    Snapshot expected = ran.expected().map(variables::revealed);
    Snapshots snapshots = context.snapshots();
    StringBuilder text = new StringBuilder();
    text.append("-- What the ladder would do on ")
        .append(context.environment().name())
        .append(", written ")
        .append(project.settings().clock().instant())
        .append(" for the database's own client.\n")
        .append("-- It is for the database whose journal stands where it stood then.\n\n");
    text.append(ClientScript.opening(context.engine().name(), ground.heads(context))).append('\n');
    text.append(variables.demands());
    List<String> session = new ArrayList<>(context.session().ddl().clientSession());
    context
        .environment()
        .role()
        .ifPresent(role -> session.add("SET ROLE " + context.engine().quoting().name(role)));
    text.append(SqlScript.forClient(session, context.engine().dialect()));
    if (ground.head().isPresent()) {
      long last = ground.head().get().number();
      text.append(saved(context, snapshots.statementBefore(ground.live(), last)));
    }
    text.append(work);
    text.append(saved(context, snapshots.statementExpected(expected, ran.lastEntry(), ran.salt())));
    return text.toString();
  }

  /** What ran, with the client's variables in place of secrets. */
  private static String work(EnvironmentContext context, Ran ran, ClientVariables variables) {
    StringBuilder text = new StringBuilder();
    for (RecordedSession.Recorded one : ran.log()) {
      try {
        ClientVariables.Put put = variables.put(one.sql(), one.data());
        text.append(put.ahead());
        text.append(SqlScript.forClient(List.of(put.statement()), context.engine().dialect()));
        text.append(one.data());
      } catch (ClientVariables.OutOfReach e) {
        throw RefusedException.of(
            e.getMessage() + ", so that it would stand in the script in clear",
            one.of().map(statement -> statement.place().toString()).orElse("the journal"),
            Advice.hint("run that rung by the tool itself"));
      }
    }
    return text.toString();
  }

  private static String saved(EnvironmentContext context, String statement) {
    return SqlScript.forClient(List.of(statement), context.engine().dialect());
  }
}
