package org.wornladder.service;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.Against;
import org.wornladder.Approval;
import org.wornladder.DriftRung;
import org.wornladder.LadderException;
import org.wornladder.MendScript;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.change.Accepted;
import org.wornladder.change.BothWays;
import org.wornladder.change.ChangeScript;
import org.wornladder.change.ChangeScript.Origin;
import org.wornladder.change.Ddl;
import org.wornladder.change.Difference;
import org.wornladder.change.SqlScript;
import org.wornladder.change.VisibleDifferences;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engines;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ExpectedState;
import org.wornladder.execution.ProjectContext;
import org.wornladder.execution.StandingObjects;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.journal.Snapshots;
import org.wornladder.project.NewRung;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.Rung;
import org.wornladder.schema.Snapshot;

/** Turns drift into SQL: a script that removes it, or a rung that makes it part of the ladder. */
public record MendService(ProjectContext project) {
  private static final String FOUND = "found in the database, and made part of the ladder";

  /**
   * The statements that would bring a database back to what it should be.
   *
   * @param rights whether owners and grants are brought back too
   */
  public MendScript script(Optional<String> environment, Against against, boolean rights) {
    return project.in(
        environment,
        Access.READ,
        context -> {
          History history = context.journal().read(Depth.GLANCE);
          if (against == Against.EXPECTED) {
            refuseUnrecorded(context, history);
          }
          ExpectedState state = ExpectedState.of(context, history);
          StructureSources structures = new StructureSources(project);
          Snapshot wanted = structures.wanted(against, context.environment(), state);
          VisibleDifferences differences = structures.visible(state.live(), wanted, rights);
          Ddl ddl = context.session().ddl();
          ChangeScript script =
              ChangeScript.of(
                  differences.visible(),
                  state.live(),
                  rights ? wanted : wanted.withRightsOf(state.live()),
                  ddl,
                  against == Against.EXPECTED ? Origin.ONE_DATABASE : Origin.TWO_DATABASES);
          refuseUnknownSecrets(context, script);
          return new MendScript(
              context.environment().name(),
              ddl.dialect(),
              script.statements(),
              inClient(script.statements(), ddl),
              script.losses(),
              script.leftOut(),
              differences.undecidable());
        });
  }

  /** The statements with what makes a client's session read them as the program's own does. */
  private static String inClient(List<String> statements, Ddl ddl) {
    List<String> whole = new ArrayList<>(statements.isEmpty() ? List.of() : ddl.clientSession());
    whole.addAll(statements);
    whole.addAll(ddl.clientEnding(statements));
    return SqlScript.forClient(whole, ddl.dialect());
  }

  private static void refuseUnknownSecrets(EnvironmentContext context, ChangeScript script) {
    if (script.statements().stream().anyMatch(Snapshots::lacksSecret)) {
      throw RefusedException.of(
          "a definition held a variable's value that is not known any more: the variable has"
              + " another one now",
          "environment " + context.environment().name(),
          Advice.hint("give the variable the value that it had, and run this again"));
    }
  }

  /**
   * Where nothing is recorded nothing is expected, and to bring that back would drop everything.
   */
  private static void refuseUnrecorded(EnvironmentContext context, History history) {
    if (history.entries().isEmpty()) {
      String name = context.environment().name();
      throw RefusedException.of(
          "nothing is on record yet on " + name + ", so there is nothing to hold it against",
          "environment " + name + ", " + context.session().address(),
          Advice.of(Advice.Code.ADOPT, name));
    }
  }

  /**
   * Writes a rung that makes elsewhere what was found in a database, and records it as in place
   * here.
   */
  public DriftRung writeRung(
      Optional<String> environment, String words, Approval approval, RunListener listener) {
    return project.in(
        environment,
        Access.WRITE,
        context ->
            context.locked(
                project.settings(), listener::waiting, same -> writeRung(same, words, approval)));
  }

  private DriftRung writeRung(EnvironmentContext context, String words, Approval approval)
      throws SQLException {
    History history = context.provenHistory();
    refuseUnrecorded(context, history);
    ExpectedState state = ExpectedState.withCatalogFingerprint(context, history);
    VisibleDifferences differences =
        new StructureSources(project).visible(state.expected(), state.live(), false);
    List<DriftRung.OfStanding> standing = new ArrayList<>();
    List<Difference> found = ofRungs(context, differences.visible(), standing);
    // Owners and grants are an environment's own, and no part of a rung.
    BothWays ways =
        BothWays.of(
            found,
            state.expected().withoutRights(),
            state.live().withoutRights(),
            context.session().ddl(),
            Origin.ONE_DATABASE);
    ChangeScript up = ways.up();
    ChangeScript down = ways.down();
    String name = context.environment().name();
    if (up.written().isEmpty() && !standing.isEmpty()) {
      throw ofStandingAlone(context, standing);
    }
    if (up.written().isEmpty()) {
      throw RefusedException.of(
          found.isEmpty()
              ? name + " is what its history says: there is nothing to make part of the ladder"
              : "none of the differences can be written as a rung",
          "environment " + name,
          found.isEmpty() ? Advice.NONE : Advice.of(Advice.Code.WRITE_RUNG_BY_HAND, name));
    }
    approval.check(context.planning(history).empty(), context.environment());
    NewRung draft =
        NewRung.of(
            context.engine().dialect(),
            up.statements(),
            down.statements(),
            Optional.empty(),
            List.of());
    draft.refuseSecrets(context.environment().definitionSecrets());
    String file =
        ProjectWriter.rung(project.project(), words, draft, project.settings().timestamp());
    record(context, rung(file));
    state.save(Accepted.in(state.expected(), up.written()));
    return new DriftRung(
        name,
        file,
        up.written(),
        up.leftOut(),
        differences.undecidable(),
        standing,
        down.leftOut());
  }

  /** The differences that no standing script makes; the others go into a list of their own. */
  private List<Difference> ofRungs(
      EnvironmentContext context, List<Difference> all, List<DriftRung.OfStanding> standing) {
    StandingObjects objects =
        new StandingObjects(project.project(), context.engine(), context.environment());
    List<Difference> others = new ArrayList<>();
    for (Difference difference : all) {
      Optional<String> maker = objects.maker(difference);
      if (maker.isPresent()) {
        standing.add(new DriftRung.OfStanding(maker.get(), difference));
      } else {
        others.add(difference);
      }
    }
    return others;
  }

  private static RefusedException ofStandingAlone(
      EnvironmentContext context, List<DriftRung.OfStanding> standing) {
    List<RefusedException.Refusal> refusals = new ArrayList<>();
    for (DriftRung.OfStanding one : standing) {
      refusals.add(
          new RefusedException.Refusal(
              one.file() + " makes " + one.difference().description() + ": no rung does",
              one.file(),
              Advice.of(Advice.Code.FILE_OR_DATABASE, context.environment().name(), one.file())));
    }
    return new RefusedException(refusals);
  }

  /** Marks a rung that was just written; its file goes again if that is not to be. */
  private void record(EnvironmentContext context, Rung rung) throws SQLException {
    try {
      context.manualResolution().adopt(rung, FOUND);
    } catch (SQLException | LadderException e) {
      if (!mayBeRecorded(context, rung)) {
        ProjectWriter.delete(project.project(), rung);
      }
      throw e;
    }
  }

  /** Whether a rung is on record, for all that can be known. */
  private static boolean mayBeRecorded(EnvironmentContext context, Rung rung) {
    try {
      // What failed may have left a transaction in which nothing is answered any more.
      context.session().rollback();
      return context.journal().read(Depth.GLANCE).rungs().containsKey(rung.number());
    } catch (SQLException | LadderException e) {
      return true;
    }
  }

  /** A rung that was just written. */
  private Rung rung(String file) {
    return ProjectReader.read(project.project().root(), Engines::isOther).rungs().stream()
        .filter(rung -> rung.file().equals(file))
        .findFirst()
        .orElseThrow();
  }
}
