package org.wornladder.service;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.ApplyOptions;
import org.wornladder.RebuildApproval;
import org.wornladder.RebuildLoss;
import org.wornladder.RebuildOptions;
import org.wornladder.RebuildResult;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.SeedRunResult;
import org.wornladder.engine.Access;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Kind;

/** A fresh start: a disposable environment is emptied, everything is applied, and seeded. */
public record RebuildService(ProjectContext project) {
  public RebuildResult rebuild(
      Optional<String> environment,
      RebuildOptions options,
      RebuildApproval approval,
      RunListener listener,
      SeedListener seedListener) {
    return project.in(
        environment,
        Access.WRITE,
        context -> {
          refuseKept(context);
          return context.locked(
              project.settings(),
              listener::waiting,
              same -> rebuild(same, options, approval, listener, seedListener));
        });
  }

  private static void refuseKept(EnvironmentContext context) {
    String name = context.environment().name();
    if (context.environment().settings().guarded()) {
      throw RefusedException.of(
          name + " is guarded: it is never emptied", "environment " + name, "");
    }
    if (!context.environment().settings().disposable()) {
      throw RefusedException.of(
          name + " is not disposable, so it is not emptied",
          "environment " + name,
          "write disposable: true under " + name + " in ladder.yaml, if all in it may be lost");
    }
  }

  private RebuildResult rebuild(
      EnvironmentContext context,
      RebuildOptions options,
      RebuildApproval approval,
      RunListener listener,
      SeedListener seedListener)
      throws SQLException {
    History history = context.journal().read(Depth.GLANCE);
    RebuildLoss loss = loss(context, history);
    ApplyOptions apply = new ApplyOptions(options.to(), false, Optional.empty());
    // What cannot be built is reported before anything is dropped.
    new ApplyService(project)
        .plan(context, History.of(List.of(), Optional.empty(), context.engine().dialect()), apply);
    if (options.seed()) {
      new SeedService(project).examine(context.environment());
    }
    refuseOutside(context);
    approval.check(loss);
    empty(context, loss);
    listener.emptied(loss);
    RunResult outcome =
        new ApplyService(project).applyLocked(context, apply, (plan, environment) -> {}, listener);
    Optional<SeedRunResult> seeded =
        options.seed() && !outcome.stopped()
            ? Optional.of(
                new SeedService(project)
                    .seedLocked(
                        context, seedOptions(options), (planned, environment) -> {}, seedListener))
            : Optional.empty();
    return new RebuildResult(loss, outcome, seeded);
  }

  /** Up to a rung, only the seeds of tables that are there then. */
  private static SeedOptions seedOptions(RebuildOptions options) {
    return options.to().isEmpty() ? SeedOptions.ALL : SeedOptions.FITTING;
  }

  private static RebuildLoss loss(EnvironmentContext context, History history) throws SQLException {
    Map<Kind, Long> objects = new EnumMap<>(Kind.class);
    for (DatabaseObject object : context.structure().snapshot().objects()) {
      if (!object.kind().isRight() && object.kind() != Kind.SCHEMA) {
        objects.merge(object.kind(), 1L, Long::sum);
      }
    }
    String address = context.session().address();
    return new RebuildLoss(
        context.environment().name(),
        address.substring(address.lastIndexOf('/') + 1),
        objects,
        !history.entries().isEmpty(),
        context.journal().others());
  }

  private static void refuseOutside(EnvironmentContext context) throws SQLException {
    List<String> outside = context.session().outsideDependents();
    if (!outside.isEmpty()) {
      throw RefusedException.of(
          "what lies outside of the managed schemas stands on what is in them: "
              + String.join(", ", outside),
          "environment " + context.environment().name(),
          "drop it, or name its schema under schemas: in ladder.yaml");
    }
  }

  private static void empty(EnvironmentContext context, RebuildLoss loss) throws SQLException {
    List<String> last = new ArrayList<>(context.journal().tables());
    last.add(ScratchDatabase.PROOF);
    context.session().empty(last);
    context.journal().read(Depth.WHOLE);
    context.journal().create();
    context.session().begin();
    context
        .journal()
        .append(
            Event.EMPTIED,
            EntrySubject.standing("rebuild", "", "", ""),
            EntryDetails.of(loss.text()));
    context.session().commit();
  }
}
