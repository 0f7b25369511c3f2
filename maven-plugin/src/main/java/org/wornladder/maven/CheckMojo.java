package org.wornladder.maven;

import java.util.List;
import java.util.Optional;
import org.apache.maven.plugins.annotations.LifecyclePhase;
import org.apache.maven.plugins.annotations.Mojo;
import org.wornladder.CheckReport;
import org.wornladder.Ladder;
import org.wornladder.project.Problem;

/** Examines the files without a database; an error in them fails the build. */
@Mojo(
    name = "check",
    defaultPhase = LifecyclePhase.VALIDATE,
    requiresProject = false,
    threadSafe = true)
public class CheckMojo extends LadderMojo {
  @Override
  Optional<List<String>> runWithoutProject() {
    CheckReport report = Ladder.check(project().toPath());
    report.problems().stream()
        .filter(problem -> !problem.isError())
        .forEach(problem -> getLog().warn(words(problem)));
    getLog().info(report.rungs() + (report.rungs() == 1 ? " rung read" : " rungs read"));
    return Optional.of(
        report.problems().stream().filter(Problem::isError).map(CheckMojo::words).toList());
  }

  private static String words(Problem problem) {
    return problem.place() + ": " + problem.message();
  }

  @Override
  List<String> run(Ladder ladder) {
    return List.of();
  }
}
