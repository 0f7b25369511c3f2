package org.wornladder.cli.command;

import java.nio.file.Path;
import java.util.List;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.Page;
import org.wornladder.project.ProjectWriter;
import picocli.CommandLine.Model.CommandSpec;

/** Makes a project. */
final class InitCommand implements Command {
  @Override
  public void describe(CommandSpec spec) {
    spec.addPositional(
        picocli.CommandLine.Model.PositionalParamSpec.builder()
            .index("0")
            .paramLabel("DIR")
            .arity("0..1")
            .type(String.class)
            .description("The folder, made if it is not there; the current one otherwise.")
            .build());
  }

  @Override
  public int run(Call call) {
    Path root = call.word(0).map(call.folder()::resolve).orElse(call.projectFolder()).normalize();
    List<String> written = ProjectWriter.init(root);
    Page page = new Page(call.terminal());
    page.verdict("Made a project in " + root + ": " + String.join(", ", written) + ".");
    page.next("ladder new WORDS  writes its first rung (one versioned migration)");
    return ExitCode.DONE;
  }
}
