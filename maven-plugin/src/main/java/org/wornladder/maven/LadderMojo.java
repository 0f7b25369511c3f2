package org.wornladder.maven;

import java.io.File;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.apache.maven.model.Dependency;
import org.apache.maven.plugin.AbstractMojo;
import org.apache.maven.plugin.MojoExecutionException;
import org.apache.maven.plugin.MojoFailureException;
import org.apache.maven.plugins.annotations.Parameter;
import org.wornladder.Advice;
import org.wornladder.Ladder;
import org.wornladder.LadderException;
import org.wornladder.UnreachableException;

/** What all goals have in common: the project, the environment, and how a failure is worded. */
abstract class LadderMojo extends AbstractMojo {
  /** The folder with ladder.yaml. */
  @Parameter(property = "worn-ladder.project", defaultValue = "${project.basedir}")
  private File project;

  /** The environment in ladder.yaml; the default one if not set. */
  @Parameter(property = "worn-ladder.environment")
  private String environment;

  /** The environment's name once more, which confirms a change of a guarded one. */
  @Parameter(property = "worn-ladder.confirm")
  private String confirm;

  /** What the project itself uses, which must be of the plug-in's version. */
  @Parameter(defaultValue = "${project.dependencies}", readonly = true)
  private List<Dependency> dependencies;

  @Parameter(defaultValue = "${plugin.version}", readonly = true)
  private String version;

  /** Leaves this goal out. */
  @Parameter(property = "worn-ladder.skip", defaultValue = "false")
  private boolean skip;

  final Optional<String> environment() {
    return Optional.ofNullable(environment).filter(name -> !name.isEmpty());
  }

  final Optional<String> confirmed() {
    return Optional.ofNullable(confirm).filter(name -> !name.isEmpty());
  }

  final File project() {
    return project;
  }

  /**
   * Does the work.
   *
   * @return what was found that fails the build; none if it passes
   */
  abstract List<String> run(Ladder ladder);

  /** The findings of files that cannot even be read; empty where the goal needs them readable. */
  Optional<List<String>> runWithoutProject() {
    return Optional.empty();
  }

  @Override
  public final void execute() throws MojoExecutionException, MojoFailureException {
    if (skip) {
      getLog().info("left out: worn-ladder.skip is set");
      return;
    }
    refuseOtherVersion();
    List<String> found;
    try {
      Optional<List<String>> early = runWithoutProject();
      found = early.isPresent() ? early.get() : runOnProject();
    } catch (UnreachableException e) {
      throw new MojoExecutionException(words(e), e);
    } catch (LadderException e) {
      throw new MojoFailureException(words(e), e);
    }
    if (!found.isEmpty()) {
      throw new MojoFailureException(String.join("\n", found));
    }
  }

  /** Two versions could read one file in two ways, and each would call the other's run edited. */
  private void refuseOtherVersion() throws MojoFailureException {
    for (Dependency one : dependencies) {
      if (one.getGroupId().equals("org.wornladder") && !one.getVersion().equals(version)) {
        throw new MojoFailureException(
            "the plug-in is of version "
                + version
                + ", and the project uses "
                + one.getArtifactId()
                + " "
                + one.getVersion()
                + "\n  next   give both one version in the pom");
      }
    }
  }

  private List<String> runOnProject() {
    try (Ladder ladder = Ladder.builder().project(project.toPath()).tool("maven").build()) {
      return run(ladder);
    }
  }

  private static String words(LadderException e) {
    List<String> lines = new ArrayList<>();
    lines.add(e.what());
    e.where().ifPresent(where -> lines.add("  where  " + where));
    hint(e.advice()).ifPresent(hint -> lines.add("  next   " + hint));
    return String.join("\n", lines);
  }

  /** Advice in words; where it is a command, the command line program says it. */
  private static Optional<String> hint(Advice advice) {
    return switch (advice.code()) {
      case HINT -> advice.facts().stream().findFirst();
      case CONFIRM_CHANGE, CONFIRM_SEED ->
          Optional.of(
              "look at worn-ladder:preview, then add -Dworn-ladder.confirm="
                  + advice.facts().get(0));
      case ADD_YES -> Optional.of("add -Dworn-ladder.yes if that is meant");
      default -> Optional.empty();
    };
  }
}
