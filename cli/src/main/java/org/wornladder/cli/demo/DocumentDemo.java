package org.wornladder.cli.demo;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFileAttributeView;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Map;
import java.util.Optional;
import org.wornladder.DatabaseReport;
import org.wornladder.Ladder;
import org.wornladder.RefusedException;
import org.wornladder.cli.Terminal;

/** The growers keep their lodgings in a document database, which the user brings. */
public final class DocumentDemo {
  private static final String VARIABLE = "HOLLOWFIELD_DOCUMENTS";

  private final DemoStage stage;
  private final Path folder;
  private final String url;

  /**
   * @param folder where the project is made
   * @param name the folder as it was typed
   * @param url of a database that is empty
   */
  public DocumentDemo(Terminal terminal, Path folder, String name, String url) {
    stage = new DemoStage(terminal, folder, name);
    this.folder = folder;
    this.url = url;
  }

  /**
   * Runs everything.
   *
   * @throws RefusedException if something is in the folder, or in the database
   */
  public void run() {
    stage.play(
        () -> {
          stage.act(
              "Hollowfield Growers keep their lodgings as documents",
              "The url of the database stands in a variable, which .env gives:");
          write("ladder.yaml");
          writeVariable();
          stage.show("ladder.yaml");
          refuseFullDatabase();
          stage.say("A rung is a file of database commands, each a JSON object:");
          write("rungs/0001-lodgings.json");
          write("rungs/0002-stays.json");
          stage.show("rungs/0002-stays.json");
          write("seeds/lodging.json");
          stage.ladder("check");
          stage.act("Up and down", "Each command is on record before it runs and behind it.");
          stage.ladder("preview");
          stage.ladder("apply");
          stage.ladder("rollback", "--last", "1");
          stage.ladder("apply");
          stage.ladder("history");
          stage.act(
              "Reference data", "Documents are found by their key, and compared field by field:");
          stage.show("seeds/lodging.json");
          stage.ladder("seed");
          stage.ladder("seed");
          stage.ladder("show");
          stage.ladder("show", "--fields", "lodging");
          stage.ladder("drift");
          stage.act("The database is yours", "The example takes back what it made:");
          stage.ladder("rollback", "--to", "0");
        });
  }

  private void write(String file) throws IOException {
    stage.file("documents", file);
  }

  /** For the owner's eyes alone: the url may hold a password. */
  private void writeVariable() throws IOException {
    Path file = folder.resolve(".env");
    Files.createFile(file);
    if (Files.getFileStore(file).supportsFileAttributeView(PosixFileAttributeView.class)) {
      Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-------"));
    }
    Files.writeString(file, VARIABLE + "=" + url + "\n", StandardCharsets.UTF_8);
  }

  private void refuseFullDatabase() {
    try (Ladder ladder =
        Ladder.builder().project(folder).variables(Map.of(VARIABLE, url)).build()) {
      DatabaseReport there = ladder.show(Optional.empty());
      if (!there.schema().tables().isEmpty()) {
        throw RefusedException.of(
            "the database has collections, and the example wants one that is empty",
            there.address(),
            "name another database in the url");
      }
    }
  }
}
