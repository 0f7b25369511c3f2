package org.wornladder.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * A file that an option names, to be written.
 *
 * @param name as it was typed
 */
record OutputFile(Call call, String option, String name) {
  /**
   * The file of an option. One that is there already is only written over after a yes.
   *
   * @throws org.wornladder.RefusedException if the answer is no
   */
  static OutputFile of(Call call, String option) {
    OutputFile file = new OutputFile(call, option, call.text(option).orElseThrow());
    if (Files.exists(file.path())) {
      YesQuestion.ask(
          call, file.name + " is there already", file.name, "Write over " + file.name + "?");
    }
    return file;
  }

  private Path path() {
    return call.folder().resolve(name);
  }

  void write(String text) {
    try {
      Files.createDirectories(path().toAbsolutePath().getParent());
      Files.writeString(path(), text);
    } catch (IOException e) {
      throw call.wrong(option + " cannot write " + path() + ": " + e.getMessage());
    }
  }
}
