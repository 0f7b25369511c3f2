package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** From an empty folder to a ladder that goes up and down. */
class FirstProjectIT {
  @TempDir Path folder;

  @Test
  void anEmptyFolderBecomesAProjectWithARungThatGoesUpAndDown() {
    Workspace work = new Workspace(folder);
    work.ladder("init").exits(0).says("ladder.yaml");
    work.ladder("init").exits(2).complains("holds a ladder project already");
    work.ladder("new", "orchards and blocks").exits(0).says("rungs/0001-orchards-and-blocks.sql");
    work.ladder("check").exits(1).says("the way up is empty", ":2:1");
    work.rung(
        "0001-orchards-and-blocks", "CREATE TABLE orchard (id integer);", "DROP TABLE orchard;");
    work.ladder("check").exits(0).says("nothing is wrong");
    work.ladder("preview").exits(0).says("CREATE TABLE orchard (id integer);", "not there yet");
    assertThat(folder.resolve("data/dev.db")).doesNotExist();
    work.ladder("status").exits(0).says("┃     ┃  0001", "waiting", "1 rung waits");
    assertThat(folder.resolve("data/dev.db")).doesNotExist();
    work.ladder("apply")
        .exits(0)
        .says("dev is at 0001. 1 rung in ", ": 1 table and 1 column added.")
        .complains("0001");
    work.ladder("apply").exits(0).says("dev is at 0001. Nothing waits.");
    work.ladder("status").exits(0).says("┣━━━━━┫  0001", "in place", "Nothing waits");
    work.ladder("show").exits(0).says("orchard     0  id");
    work.ladder("rollback")
        .exits(0)
        .says("dev has no rung in place", "1 table and 1 column dropped");
    work.ladder("history").exits(0).says("applied", "rolled back", "2 entries");
    assertThat(work.tablesOf("dev")).isEmpty();
    try (var files = Files.list(folder.resolve("data"))) {
      assertThat(files.map(file -> file.getFileName().toString()))
          .containsExactlyInAnyOrder("dev.db", "dev.db-ladder-lock", ".gitignore");
    } catch (java.io.IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }

  @Test
  void shortHandWritesBothWays() {
    Workspace work = Workspace.hollowfield(folder);
    work.ladder(
            "new",
            "bins",
            "--create-table",
            "bin (code text not null primary key, weight_kg decimal(8,2))",
            "--add-index",
            "bin (weight_kg)")
        .exits(0)
        .says("Wrote rungs/0001-bins.sql");
    work.ladder("new", "more of bins", "--rename-column", "bin weight_kg to kilograms").exits(0);
    work.ladder("new", "less", "--drop-column", "bin.kilograms").exits(0);
    assertThat(work.text("rungs/0001-bins.sql"))
        .isEqualTo(
            """
            --| about: Bins
            --| up
            CREATE TABLE bin (code text not null primary key, weight_kg decimal(8,2));
            CREATE INDEX bin_weight_kg ON bin (weight_kg);
            --| down
            DROP INDEX bin_weight_kg;
            DROP TABLE bin;
            """);
    work.ladder("apply", "--to", "2").exits(0).says("dev is at 0002");
    work.ladder("show", "--table", "bin").exits(0).says("kilograms  decimal(8,2)", "PRIMARY KEY");
    work.ladder("rollback", "--last", "2").exits(0);
    work.ladder("new", "x", "--add-index", "bin").exits(2).complains("for example: --add-index");
    work.ladder("new", "still empty").exits(0);
    work.ladder("new", "beside an empty one").exits(0).says("-beside-an-empty-one.sql");
    work.ladder("new").exits(2).complains("name what the rung is for");
  }

  @Test
  void timestampsNumberTheRungsWhereTheSettingsSaySo() {
    Workspace work = Workspace.hollowfield(folder);
    work.file("ladder.yaml", work.text("ladder.yaml") + "numbering: timestamp\n");
    assertThat(work.ladder("new", "Kühlräume & more").exits(0).out())
        .containsPattern("rungs/20\\d{12}-kühlräume-more\\.sql");
  }

  @Test
  void aRungThatNobodyRanIsTakenBackAndNoOther() {
    Workspace work = Workspace.hollowfield(folder).tables(2);
    work.ladder("apply", "test", "--to", "1").exits(0);
    work.ladder("new", "--take-back", "2").exits(0).says("Deleted rungs/0002-bin-2.sql");
    work.ladder("new", "--take-back", "1").exits(3).complains("0001 is in place on test");
    assertThat(folder.resolve("rungs/0001-bin-1.sql")).exists();
    work.tables(2)
        .file("ladder.yaml", work.text("ladder.yaml").replace("data/live.db", "elsewhere/live.db"));
    work.ladder("new", "--take-back", "0002")
        .exits(3)
        .complains("live cannot be asked whether it has 0002", "--confirm live");
    work.ladder("new", "--take-back", "0002", "--confirm", "live").exits(0);
    assertThat(folder.resolve("rungs/0002-bin-2.sql")).doesNotExist();
  }

  @Test
  void theDemoTellsItsWholeStory() {
    Workspace work = new Workspace(folder);
    Workspace.Run demo = work.ladder("demo").exits(0);
    demo.says(
        "$ ladder init",
        "$ ladder preview",
        "$ ladder rollback --to 0",
        "live is at 0002",
        "0001 is worn: edited since it ran on dev",
        "0003 failed on dev: no such table: pickings",
        "dev is at 0003. 1 rung in",
        "both ways are proved in a scratch database",
        "Wrote rungs/0004-humidity-of-cold-rooms.sql: 1 difference");
    Workspace project = new Workspace(folder.resolve("hollowfield"));
    assertThat(project.tablesOf("dev")).containsExactly("block", "cold_room", "orchard", "picking");
    assertThat(project.tablesOf("live")).containsExactly("block", "orchard", "picking");
    project
        .ladder("check", "--against", "live")
        .exits(0)
        .says("the journal agrees, 2 rungs waiting");
    work.ladder("demo").exits(3).complains("is not empty");
  }

  @Test
  void theJournalMayHaveAnotherNameAndIsNoTableOfYours() {
    Workspace work = Workspace.hollowfield(folder).tables(1);
    work.file("ladder.yaml", work.text("ladder.yaml") + "journal: { table: \"what ran\" }\n");
    work.ladder("apply").exits(0).says("1 table and 1 column added");
    assertThat(work.query("dev", "SELECT event FROM \"what ran\"")).containsExactly("applied");
    work.ladder("show").exits(0).says("1 table, 1 column.");
    work.ladder("show", "--table", "what ran").exits(2).complains("there is no table 'what ran'");
  }

  @Test
  void initKeepsWhatIsThere() {
    Workspace work = new Workspace(folder).file(".gitignore", "target/\n.env\n");
    work.ladder("init", "orchards").exits(0).says("orchards");
    assertThat(work.text("orchards/ladder.yaml")).contains("name: orchards\n");
    work.ladder("init").exits(0);
    assertThat(work.text(".gitignore"))
        .startsWith("target/\n.env\n")
        .contains("*.db\n")
        .doesNotContain(".env\n.env");
    assertThat(folder.resolve(".env")).doesNotExist();
    assertThat(work.text(".env.sample")).contains("LIVE_URL");
    work.ladder("status").exits(0).says("There is no rung yet (a rung is one versioned migration)");
  }

  @Test
  void helpAndVersionSpeakOnStandardOutput() {
    Workspace work = new Workspace(folder);
    for (List<String> args : List.of(List.of("--help"), List.of("apply", "--help"))) {
      work.ladder(args.toArray(String[]::new)).exits(0).says("--help", "Usage: ladder");
    }
    assertThat(work.ladder("--version").exits(0).out()).startsWith("ladder 0.");
    work.ladder().exits(2).complains("Usage: ladder");
    work.ladder("aply").exits(2).complains("aply");
    work.ladder("apply", "--tohether").exits(2).complains("--together");
  }
}
