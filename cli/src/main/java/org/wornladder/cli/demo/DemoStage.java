package org.wornladder.cli.demo;

import java.io.IOException;
import java.io.InputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.cli.LadderCli;
import org.wornladder.cli.Terminal;
import org.wornladder.sql.Place;

/** A folder in which an example happens, with the true output of every command. */
final class DemoStage {
  private final Terminal terminal;
  private final PrintStream out;
  private final Path folder;
  private final String name;
  private int act;

  /**
   * @param folder where the project is made
   * @param name the folder as it was typed
   */
  DemoStage(Terminal terminal, Path folder, String name) {
    this.terminal = withoutQuestions(terminal);
    this.out = terminal.out();
    this.folder = folder;
    this.name = name;
  }

  private static Terminal withoutQuestions(Terminal terminal) {
    return new Terminal(
        terminal.in(),
        terminal.out(),
        terminal.out(),
        false,
        terminal.outIsTerminal(),
        false,
        terminal.width(),
        terminal.color(),
        terminal.unicode());
  }

  /** What is done in the folder. */
  interface Play {
    void run() throws IOException;
  }

  /**
   * Makes the folder, and runs the example in it.
   *
   * @throws RefusedException if something is in the folder already
   * @throws ProjectException if the folder cannot be written
   */
  void play(Play play) {
    refuseFullFolder();
    try {
      Files.createDirectories(folder);
      play.run();
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(name), "the folder cannot be written: " + e.getMessage(), "name another folder");
    }
  }

  private void refuseFullFolder() {
    try (Stream<Path> files = Files.isDirectory(folder) ? Files.list(folder) : Stream.empty()) {
      if (files.findAny().isPresent()) {
        throw RefusedException.of(
            "the folder " + name + " is not empty", name, "ladder demo DIR, with a new name");
      }
    } catch (IOException e) {
      throw ProjectException.of(Place.of(name), "the folder cannot be read", "name another folder");
    }
  }

  void print(String line) {
    out.println(line);
  }

  void act(String title, String words) {
    act++;
    out.println();
    String line = terminal.unicode() ? "━" : "=";
    out.println(
        line.repeat(3)
            + " "
            + act
            + ". "
            + title
            + " "
            + line.repeat(Math.max(3, 74 - title.length())));
    out.println();
    say(words);
  }

  void say(String words) {
    out.println(words);
    out.println();
  }

  void ladder(String... args) {
    List<String> typed = new ArrayList<>();
    for (String arg : args) {
      typed.add(arg.matches("[A-Za-z0-9:_-]+") ? arg : "\"" + arg + "\"");
    }
    out.println("$ ladder " + String.join(" ", typed));
    int code = new LadderCli(terminal, folder).run(args);
    if (code != 0) {
      out.println("(exit code " + code + ")");
    }
    out.println();
  }

  /** Writes one of the example's files. */
  void file(String version, String file) throws IOException {
    try (InputStream in = Demo.class.getResourceAsStream("/demo/" + version + "/" + file)) {
      Files.createDirectories(folder.resolve(file).getParent());
      Files.write(folder.resolve(file), in.readAllBytes());
    }
  }

  void show(String file) throws IOException {
    out.println("$ cat " + file);
    out.println(Files.readString(folder.resolve(file), StandardCharsets.UTF_8));
  }
}
