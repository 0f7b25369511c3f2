package org.wornladder.scratch;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.ApplyOptions;
import org.wornladder.LadderException;
import org.wornladder.ProjectException;
import org.wornladder.ReplayException;
import org.wornladder.RunListener;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Session;
import org.wornladder.engine.StatementWords;
import org.wornladder.execution.ApplyPlanner;
import org.wornladder.execution.AroundRung;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.Plan;
import org.wornladder.execution.PlanningContext;
import org.wornladder.execution.Runner;
import org.wornladder.execution.Step;
import org.wornladder.project.Problem;
import org.wornladder.project.SchemaFiles.SchemaFile;
import org.wornladder.sql.Place;
import org.wornladder.sql.Splitter;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Statement;

/** Runs a project's files in a scratch database. */
public final class ScratchReplay {
  private final EnvironmentContext context;
  private final Engine engine;
  private final Session session;
  private final ScratchGuard reach;

  /**
   * @param context of the scratch database
   * @param ownServer whether statements may reach out of it
   */
  public ScratchReplay(EnvironmentContext context, boolean ownServer) {
    this.context = context;
    engine = context.engine();
    session = context.session();
    reach = new ScratchGuard(engine, ownServer);
  }

  /**
   * Runs all rungs and standing scripts, or the rungs alone up to one.
   *
   * @param basis of the scratch database, its history empty
   * @param upTo the highest number to run; empty for all
   * @throws ReplayException if one fails, or reaches out
   */
  public void rungs(PlanningContext basis, OptionalLong upTo) {
    try {
      ApplyOptions options = new ApplyOptions(upTo, false, Optional.empty());
      Plan whole = new ApplyPlanner(basis, options, Map.of()).plan(Optional.empty());
      Plan plan = upTo.isPresent() ? whole.withRungsAlone() : whole;
      for (Step step : plan.steps()) {
        reach.check(step.statements());
      }
      new Runner(context, plan, RunListener.SILENT, 0, true, AroundRung.NOTHING).run();
    } catch (ReplayException e) {
      throw e;
    } catch (LadderException e) {
      throw ReplayException.of(e);
    }
  }

  /**
   * Runs the declared structure's statements, in whatever order they can run: one that needs what
   * is not there yet is tried again.
   *
   * @throws ProjectException with every statement that cannot run, or declares an object again
   */
  public void schema(List<SchemaFile> files) throws SQLException {
    List<Attempt> waiting = new ArrayList<>();
    DoubleDeclarations doubles = new DoubleDeclarations();
    for (SchemaFile file : files) {
      List<Statement> statements = statements(file);
      reach.check(statements);
      statements.forEach(doubles::take);
      waiting.addAll(attempts(statements));
    }
    doubles.refuse();
    while (!waiting.isEmpty()) {
      List<Problem> problems = new ArrayList<>();
      List<Attempt> left = run(waiting, problems);
      if (left.size() == waiting.size()) {
        throw new ProjectException(problems);
      }
      waiting = left;
    }
  }

  /** A statement with its file's settings, which are made before and put back after it. */
  private record Attempt(List<Statement> before, Statement statement, List<Statement> after) {
    private List<Statement> all() {
      List<Statement> all = new ArrayList<>(before);
      all.add(statement);
      all.addAll(after);
      return all;
    }
  }

  private List<Attempt> attempts(List<Statement> statements) {
    List<Attempt> attempts = new ArrayList<>();
    for (int i = 0; i < statements.size(); i++) {
      if (!isSetting(statements.get(i))) {
        List<Statement> before = statements.subList(0, i).stream().filter(this::isSetting).toList();
        List<Statement> after =
            statements.subList(i + 1, statements.size()).stream().filter(this::isSetting).toList();
        attempts.add(new Attempt(before, statements.get(i), after));
      }
    }
    return attempts;
  }

  private boolean isSetting(Statement statement) {
    return StatementWords.first(statement, 1).contains("SET");
  }

  private List<Attempt> run(List<Attempt> attempts, List<Problem> problems) {
    List<Attempt> left = new ArrayList<>();
    for (Attempt attempt : attempts) {
      try {
        for (Statement statement : attempt.all()) {
          session.execute(statement);
        }
      } catch (SQLException e) {
        left.add(attempt);
        putBack(attempt);
        problems.add(
            new Problem(
                Problem.Severity.ERROR,
                attempt.statement().place(),
                "in the scratch database: " + session.fault(e).message(),
                "mend the file; no environment was touched"));
      }
    }
    return left;
  }

  /** The next statements are read as their own files say. */
  private void putBack(Attempt attempt) {
    for (Statement setting : attempt.after()) {
      try {
        session.execute(setting);
      } catch (SQLException e) {
        // It failed with its statement's own failure as the reason, which is reported.
        return;
      }
    }
  }

  private List<Statement> statements(SchemaFile file) {
    Place start = new Place(file.name(), 1, 1);
    try {
      return Splitter.split(file.text(), engine.dialect(), start);
    } catch (SqlTextException e) {
      throw ProjectException.of(
          start.plus(file.text(), e.offset()), e.getMessage(), "end it, or double the quote");
    }
  }
}
