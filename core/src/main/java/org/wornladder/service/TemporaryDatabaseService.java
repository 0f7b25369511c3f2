package org.wornladder.service;

import java.sql.SQLException;
import java.util.Optional;
import org.wornladder.ApplyOptions;
import org.wornladder.RunListener;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.TemporaryDatabase;
import org.wornladder.engine.Access;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.project.Environment;
import org.wornladder.scratch.ScratchRunner;

/** Makes databases that have all rungs in place and live until they are closed. */
public record TemporaryDatabaseService(ProjectContext project) {
  /**
   * Makes one.
   *
   * @param like the environment on whose engine and, where it has one, on whose server it is
   * @param seed whether it has the reference data, too
   */
  public TemporaryDatabase make(Optional<String> like, boolean seed) {
    Environment environment = project.environments().read(like);
    ScratchRunner runner = new ScratchRunner(project);
    ScratchDatabase scratch = runner.make(environment);
    try {
      return project.in(
          scratch.environment(),
          Access.WRITE,
          context -> {
            fill(context, runner, seed);
            return new TemporaryDatabase(
                context.session().connection().getMetaData().getURL(),
                scratch.environment().user(),
                scratch.environment().password(),
                scratch);
          });
    } catch (RuntimeException e) {
      scratch.close();
      throw e;
    }
  }

  private void fill(EnvironmentContext context, ScratchRunner runner, boolean seed)
      throws SQLException {
    runner.createMissingSchemas(context);
    new ApplyService(project)
        .applyLocked(context, ApplyOptions.ALL, (plan, environment) -> {}, RunListener.SILENT);
    if (seed && !project.project().settings().seeds().isEmpty()) {
      new SeedService(project)
          .seedLocked(context, SeedOptions.ALL, (planned, environment) -> {}, SeedListener.SILENT);
    }
  }
}
