package org.wornladder.cli.command;

import java.nio.file.Path;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.demo.Demo;
import org.wornladder.cli.demo.DocumentDemo;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.PositionalParamSpec;

/** Runs the whole example. */
final class DemoCommand implements Command {
  private static final String FOLDER = "hollowfield";
  private static final String DOCUMENTS = "--documents";

  @Override
  public void describe(CommandSpec spec) {
    spec.addPositional(
        PositionalParamSpec.builder()
            .index("0")
            .paramLabel("DIR")
            .arity("0..1")
            .type(String.class)
            .description("A folder that is not there yet, or is empty; " + FOLDER + " otherwise.")
            .build());
    spec.addOption(
        Options.text(
            DOCUMENTS, "URL", "The act on a document database instead, on one that is empty."));
  }

  @Override
  public int run(Call call) {
    String name = call.word(0).orElse(FOLDER);
    Path folder = call.folder().resolve(name).normalize();
    if (call.has(DOCUMENTS)) {
      String url = call.text(DOCUMENTS).orElseThrow();
      new DocumentDemo(call.terminal(), folder, name, url).run();
    } else {
      new Demo(call.terminal(), folder, name).run();
    }
    return ExitCode.DONE;
  }
}
