package org.wornladder.cli.demo;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.cli.Terminal;

/**
 * Reports the story of the Hollowfield Growers' database, with the true output of every command.
 */
public final class Demo {
  private final DemoStage stage;
  private final Path folder;
  private final String name;

  /**
   * @param folder where the project is made
   * @param name the folder as it was typed
   */
  public Demo(Terminal terminal, Path folder, String name) {
    stage = new DemoStage(terminal, folder, name);
    this.folder = folder;
    this.name = name;
  }

  /**
   * Runs everything.
   *
   * @throws RefusedException if something is in the folder already
   * @throws ProjectException if the folder cannot be written
   */
  public void run() {
    stage.play(
        () -> {
          beginning();
          development();
          promotion();
          mistakes();
          drafting();
          rows();
          drift();
          freshStart();
          end();
        });
  }

  private void file(String file) throws IOException {
    stage.file("project", file);
  }

  private void beginning() throws IOException {
    stage.act(
        "Hollowfield Growers start a database",
        "The growers keep orchards of apples and pears. Their project begins in an empty folder.");
    stage.print("$ mkdir " + name + " && cd " + name);
    stage.ladder("init");
    stage.say("Three environments go into ladder.yaml. Anybody may change dev; live is guarded.");
    file("ladder.yaml");
    stage.show("ladder.yaml");
    stage.act(
        "Two changes are written",
        "A rung is one versioned change: a file with a way up and a way down. The first is written by hand:");
    stage.ladder("new", "orchards and blocks");
    file("rungs/0001-orchards-and-blocks.sql");
    stage.show("rungs/0001-orchards-and-blocks.sql");
    stage.say(
        "The second is written by options that take SQL's own words; the way down comes with it:");
    stage.ladder(
        "new",
        "pickings",
        "--create-table",
        "picking (id integer primary key, block_id integer not null references block (id), picked_on text not null, kilograms integer not null)",
        "--add-index",
        "picking (picked_on)");
    stage.show("rungs/0002-pickings.sql");
    stage.say("A view is a standing script, which runs again whenever its text changes.");
    file("standing/harvest_summary.sql");
    stage.ladder("check");
  }

  private void development() {
    stage.act("First on dev", "preview prints the plan that apply runs.");
    stage.ladder("preview");
    stage.ladder("apply");
    stage.ladder("status");
    stage.say("The way down is tried before anyone depends on it, then the way up once more:");
    stage.ladder("rollback", "--to", "0");
    stage.ladder("apply");
    stage.ladder("show");
  }

  private void promotion() {
    stage.act(
        "Then test and live",
        "live takes only what test has, and asks for its own name to confirm.");
    stage.ladder("apply", "live");
    stage.ladder("apply", "test");
    stage.ladder("apply", "live");
    stage.ladder("apply", "live", "--confirm", "live");
  }

  private void mistakes() throws IOException {
    stage.act(
        "Somebody edits a rung that has run",
        "A column is added to 0001, which three databases have already run.");
    stage.file("edited", "rungs/0001-orchards-and-blocks.sql");
    stage.ladder("status");
    stage.ladder("apply");
    stage.say(
        "The old text is put back, and the change becomes a rung of its own. Its second statement is wrong:");
    file("rungs/0001-orchards-and-blocks.sql");
    stage.file("failing", "rungs/0003-cold-rooms.sql");
    stage.show("rungs/0003-cold-rooms.sql");
    stage.ladder("apply");
    stage.say(
        "The first statement was undone too: dev has no table cold_room, and the journal says why.");
    stage.ladder("show");
    stage.ladder("history");
    stage.say("With the statement corrected, it runs:");
    file("rungs/0003-cold-rooms.sql");
    stage.ladder("apply");
    stage.ladder("status");
  }

  private void drafting() throws IOException {
    stage.act(
        "A change is drafted",
        "schema/ holds the structure that is wanted, a file a table. First it is what the rungs build:");
    stage.ladder("draft", "--refresh-files");
    stage.say(
        "Then a file is edited: cold rooms get a limit and a rule. draft writes the rung, both ways.");
    stage.file("drafted", "schema/tables/cold_room.sql");
    stage.show("schema/tables/cold_room.sql");
    stage.ladder("draft", "humidity of cold rooms");
    stage.say("SQLite cannot add a rule to a table, so the rung makes the table anew. Read it:");
    stage.show("rungs/0004-humidity-of-cold-rooms.sql");
    stage.say("rehearse proves it in a scratch database; preview asks dev what stands in its way.");
    stage.ladder("rehearse");
    stage.ladder("preview");
    stage.ladder("apply");
    stage.ladder("rollback");
    stage.ladder("apply");
    stage.say(
        "A column was forgotten. While no guarded database has the rung, it goes into the same one:");
    stage.file("extended", "schema/tables/cold_room.sql");
    stage.ladder("draft", "--extend", "--yes");
    stage.ladder("status");
  }

  private void rows() throws IOException {
    stage.act(
        "The rows that an application needs",
        "Cold rooms are kept in a file that is reviewed. Pickings are made up, but never on live.");
    stage.file("seeded", "ladder.yaml");
    stage.file("seeded", "seeds/cold_room.csv");
    stage.file("seeded", "seeds/picking.sample.yaml");
    stage.show("seeds/cold_room.csv");
    stage.show("seeds/picking.sample.yaml");
    stage.ladder("seed", "--dry-run", "--only", "cold_room");
    stage.ladder("seed");
    stage.ladder("seed");
    stage.say("A row is changed by hand. drift reports it, and seed restores it:");
    byHand("dev", "UPDATE cold_room SET celsius = 4 WHERE code = 'north'");
    stage.ladder("drift");
    stage.ladder("seed");
  }

  private void freshStart() {
    stage.act(
        "A developer joins the team",
        "One command empties a disposable database, builds it anew, and seeds it:");
    stage.ladder("rebuild", "--yes");
    stage.ladder("show");
  }

  private void drift() {
    stage.act(
        "A change by hand on live", "Last night the database was changed by hand, without a rung:");
    byHand("live", "ALTER TABLE orchard ADD COLUMN fax text");
    stage.say("The history does not have it, so drift shows it:");
    stage.ladder("drift", "live");
    stage.ladder("compare", "env:test", "env:live");
    stage.say("It is removed by hand as well:");
    byHand("live", "ALTER TABLE orchard DROP COLUMN fax");
    stage.ladder("drift", "live");
  }

  /** A statement that no rung has. */
  private void byHand(String environment, String statement) {
    stage.print("sql> " + statement + ";");
    stage.print("");
    ManualChange.at(folder.resolve("data").resolve(environment + ".db"), statement);
  }

  private void end() {
    stage.act("The folder is yours", "Everything above is in " + name + "/. Try:");
    stage.print("  cd " + name);
    for (String command :
        List.of(
            "ladder preview test",
            "ladder show --table block",
            "ladder drift live",
            "ladder --help")) {
      stage.print("  " + command);
    }
  }
}
