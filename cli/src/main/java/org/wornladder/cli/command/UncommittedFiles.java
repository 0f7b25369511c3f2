package org.wornladder.cli.command;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** Files with edits that version control does not have. */
final class UncommittedFiles {
  private static final int SECONDS = 20;

  private UncommittedFiles() {}

  /**
   * Those of a folder's files that git would lose; none where git is not there, or does not know
   * the folder.
   *
   * @param files relative to the folder
   */
  static List<String> of(Path folder, List<String> files) {
    List<String> uncommitted = new ArrayList<>();
    for (String file : files) {
      if (!status(folder, file).isBlank()) {
        uncommitted.add(file);
      }
    }
    return uncommitted;
  }

  /** What git says of a file; empty if it has it as it is. */
  private static String status(Path folder, String file) {
    ProcessBuilder git =
        new ProcessBuilder(
                "git",
                "-c",
                "core.fsmonitor=false",
                "--no-optional-locks",
                "--literal-pathspecs",
                "status",
                "--porcelain",
                "--",
                file)
            .directory(folder.toFile())
            .redirectError(ProcessBuilder.Redirect.DISCARD);
    try {
      Process process = git.start();
      process.getOutputStream().close();
      String said;
      try (InputStream out = process.getInputStream()) {
        said = new String(out.readAllBytes(), StandardCharsets.UTF_8);
      }
      return process.waitFor(SECONDS, TimeUnit.SECONDS) && process.exitValue() == 0 ? said : "";
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return "";
    } catch (IOException e) {
      // Without git there is no version control to ask.
      return "";
    }
  }
}
