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
import org.wornladder.project.UrlSecrets;
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
            return open(context, scratch);
          });
    } catch (RuntimeException e) {
      scratch.close();
      throw e;
    }
  }

  /** As JDBC has it: a URL of another form has its user and password inside. */
  private static TemporaryDatabase open(EnvironmentContext context, ScratchDatabase scratch)
      throws SQLException {
    Environment environment = scratch.environment();
    if (environment.url().startsWith("jdbc:")) {
      return new TemporaryDatabase(
          environment.url(), environment.user(), environment.password(), scratch);
    }
    return new TemporaryDatabase(
        context.session().connection().getMetaData().getURL(),
        environment.user().or(() -> Optional.of(context.session().user())),
        environment.password().or(() -> UrlSecrets.password(environment.url())),
        scratch);
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
