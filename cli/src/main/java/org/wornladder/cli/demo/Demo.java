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

/**
 * Reports the story of the Hollowfield Growers' database, with the true output of every command.
 */
public final class Demo {
  private final Terminal terminal;
  private final PrintStream out;
  private final Path folder;
  private final String name;
  private int act;

  /**
   * @param folder where the project is made
   * @param name the folder as it was typed
   */
  public Demo(Terminal terminal, Path folder, String name) {
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

  /**
   * Runs everything.
   *
   * @throws RefusedException if something is in the folder already
   * @throws ProjectException if the folder cannot be written
   */
  public void run() {
    refuseFullFolder();
    try {
      Files.createDirectories(folder);
      beginning();
      development();
      promotion();
      mistakes();
      drafting();
      rows();
      drift();
      freshStart();
      end();
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

  private void beginning() throws IOException {
    act(
        "Hollowfield Growers start a database",
        "The growers keep orchards of apples and pears. Their project begins in an empty folder.");
    out.println("$ mkdir " + name + " && cd " + name);
    ladder("init");
    say("Three environments go into ladder.yaml. Anybody may change dev; live is guarded.");
    file("ladder.yaml");
    show("ladder.yaml");
    act(
        "Two changes are written",
        "A rung is one versioned change: a file with a way up and a way down. The first is written by hand:");
    ladder("new", "orchards and blocks");
    file("rungs/0001-orchards-and-blocks.sql");
    show("rungs/0001-orchards-and-blocks.sql");
    say("The second is written by options that take SQL's own words; the way down comes with it:");
    ladder(
        "new",
        "pickings",
        "--create-table",
        "picking (id integer primary key, block_id integer not null references block (id), picked_on text not null, kilograms integer not null)",
        "--add-index",
        "picking (picked_on)");
    show("rungs/0002-pickings.sql");
    say("A view is a standing script, which runs again whenever its text changes.");
    file("standing/harvest_summary.sql");
    ladder("check");
  }

  private void development() {
    act("First on dev", "preview prints the plan that apply runs.");
    ladder("preview");
    ladder("apply");
    ladder("status");
    say("The way down is tried before anyone depends on it, then the way up once more:");
    ladder("rollback", "--to", "0");
    ladder("apply");
    ladder("show");
  }

  private void promotion() {
    act(
        "Then test and live",
        "live takes only what test has, and asks for its own name to confirm.");
    ladder("apply", "live");
    ladder("apply", "test");
    ladder("apply", "live");
    ladder("apply", "live", "--confirm", "live");
  }

  private void mistakes() throws IOException {
    act(
        "Somebody edits a rung that has run",
        "A column is added to 0001, which three databases have already run.");
    file("edited", "rungs/0001-orchards-and-blocks.sql");
    ladder("status");
    ladder("apply");
    say(
        "The old text is put back, and the change becomes a rung of its own. Its second statement is wrong:");
    file("rungs/0001-orchards-and-blocks.sql");
    file("failing", "rungs/0003-cold-rooms.sql");
    show("rungs/0003-cold-rooms.sql");
    ladder("apply");
    say(
        "The first statement was undone too: dev has no table cold_room, and the journal says why.");
    ladder("show");
    ladder("history");
    say("With the statement corrected, it runs:");
    file("rungs/0003-cold-rooms.sql");
    ladder("apply");
    ladder("status");
  }

  private void drafting() throws IOException {
    act(
        "A change is drafted",
        "schema/ holds the structure that is wanted, a file a table. First it is what the rungs build:");
    ladder("draft", "--refresh-files");
    say(
        "Then a file is edited: cold rooms get a limit and a rule. draft writes the rung, both ways.");
    file("drafted", "schema/tables/cold_room.sql");
    show("schema/tables/cold_room.sql");
    ladder("draft", "humidity of cold rooms");
    say("SQLite cannot add a rule to a table, so the rung makes the table anew. Read it:");
    show("rungs/0004-humidity-of-cold-rooms.sql");
    say("rehearse proves it in a scratch database; preview asks dev what stands in its way.");
    ladder("rehearse");
    ladder("preview");
    ladder("apply");
    ladder("rollback");
    ladder("apply");
    say(
        "A column was forgotten. While no guarded database has the rung, it goes into the same one:");
    file("extended", "schema/tables/cold_room.sql");
    ladder("draft", "--extend", "--yes");
    ladder("status");
  }

  private void rows() throws IOException {
    act(
        "The rows that an application needs",
        "Cold rooms are kept in a file that is reviewed. Pickings are made up, but never on live.");
    file("seeded", "ladder.yaml");
    file("seeded", "seeds/cold_room.csv");
    file("seeded", "seeds/picking.sample.yaml");
    show("seeds/cold_room.csv");
    show("seeds/picking.sample.yaml");
    ladder("seed", "--dry-run", "--only", "cold_room");
    ladder("seed");
    ladder("seed");
    say("A row is changed by hand. drift reports it, and seed restores it:");
    byHand("dev", "UPDATE cold_room SET celsius = 4 WHERE code = 'north'");
    ladder("drift");
    ladder("seed");
  }

  private void freshStart() {
    act(
        "A developer joins the team",
        "One command empties a disposable database, builds it anew, and seeds it:");
    ladder("rebuild", "--yes");
    ladder("show");
  }

  private void drift() {
    act("A change by hand on live", "Last night the database was changed by hand, without a rung:");
    byHand("live", "ALTER TABLE orchard ADD COLUMN fax text");
    say("The history does not have it, so drift shows it:");
    ladder("drift", "live");
    ladder("compare", "env:test", "env:live");
    say("It is removed by hand as well:");
    byHand("live", "ALTER TABLE orchard DROP COLUMN fax");
    ladder("drift", "live");
  }

  /** A statement that no rung has. */
  private void byHand(String environment, String statement) {
    out.println("sql> " + statement + ";");
    out.println();
    ManualChange.at(folder.resolve("data").resolve(environment + ".db"), statement);
  }

  private void end() {
    act("The folder is yours", "Everything above is in " + name + "/. Try:");
    out.println("  cd " + name);
    for (String command :
        List.of(
            "ladder preview test",
            "ladder show --table block",
            "ladder drift live",
            "ladder --help")) {
      out.println("  " + command);
    }
  }

  private void act(String title, String words) {
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

  private void say(String words) {
    out.println(words);
    out.println();
  }

  private void ladder(String... args) {
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
  private void file(String file) throws IOException {
    file("project", file);
  }

  private void file(String version, String file) throws IOException {
    try (InputStream in = Demo.class.getResourceAsStream("/demo/" + version + "/" + file)) {
      Files.createDirectories(folder.resolve(file).getParent());
      Files.write(folder.resolve(file), in.readAllBytes());
    }
  }

  private void show(String file) throws IOException {
    out.println("$ cat " + file);
    out.println(Files.readString(folder.resolve(file), StandardCharsets.UTF_8));
  }
}
