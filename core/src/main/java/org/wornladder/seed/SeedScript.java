package org.wornladder.seed;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.ProjectException;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Engines;
import org.wornladder.execution.ScriptPreparation;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;
import org.wornladder.project.Problem;
import org.wornladder.project.Project;
import org.wornladder.project.Script;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedFiles;
import org.wornladder.sql.Statement;

/**
 * A seed that is a script, ready to run.
 *
 * @param fingerprint of its text and of the values it uses
 */
record SeedScript(Seed seed, String fingerprint, List<Statement> statements) {
  /**
   * Reads one.
   *
   * @throws ProjectException if it cannot be read, or a statement cannot be part of a transaction
   */
  static SeedScript read(Project project, Environment environment, Engine engine, Seed seed) {
    Script script = SeedFiles.script(project.root(), seed, project.engineNames(Engines::isOther));
    ScriptPreparation preparation = new ScriptPreparation(engine, environment);
    List<Statement> statements = preparation.statements(script, Direction.UP);
    List<Problem> problems = new ArrayList<>();
    for (Statement statement : statements) {
      if (!engine.joinsTransaction(statement)) {
        problems.add(
            new Problem(
                Problem.Severity.ERROR,
                statement.place(),
                "on "
                    + engine.name()
                    + " this statement commits by itself, and seeds do so together",
                "put it into a rung"));
      }
    }
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
    return new SeedScript(seed, preparation.standingFingerprint(script), statements);
  }
}
