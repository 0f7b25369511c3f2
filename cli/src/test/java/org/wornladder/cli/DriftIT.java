package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What stands in a database beside what should, and beside another one, through the program. */
class DriftIT {
  @TempDir Path folder;
  private Workspace work;

  @BeforeEach
  void project() {
    work = Workspace.hollowfield(folder).tables(2);
    work.ladder("apply", "dev").exits(0);
    work.ladder("apply", "test").exits(0);
  }

  private void byHand() {
    work.execute("test", "ALTER TABLE bin_1 ADD COLUMN fax varchar(40) DEFAULT 'none'");
    work.execute("test", "CREATE TABLE legacy_fax (id integer PRIMARY KEY)");
    work.execute("test", "DROP TABLE bin_2");
  }

  @Test
  void aDatabaseThatIsWhatItsHistorySays() {
    work.ladder("drift", "test")
        .exits(0)
        .says("Structure  as expected", "Journal    2 entries, the chain holds")
        .says("test is what its history says.");
  }

  @Test
  void aTableAlteredByHandIsToldColumnByColumn() {
    byHand();
    work.ladder("drift", "test")
        .exits(1)
        .says("3 differences", "not expected  column bin_1.fax", "type      varchar(40)")
        .says("missing       table bin_2", "not expected  table legacy_fax", "primary key  (id)")
        .says(
            "ladder drift test --mend mend.sql",
            "--forgive \"column:bin_1.fax\"",
            "test is not what its history says.");
    work.ladder("compare", "dev", "test")
        .exits(1)
        .says("only in env:dev", "only in env:test", "3 differences.");
    work.ladder("compare", "env:dev", "expected:test").exits(0).says("They are the same.");
  }

  /** A checkout of another branch lacks many files: what to do about it is said once. */
  @Test
  void ofManyAbsentRungsTheFirstStandForAll() throws IOException {
    work.tables(16);
    work.ladder("apply", "dev").exits(0);
    for (int i = 2; i <= 15; i++) {
      work.delete("rungs/%04d-bin-%d.sql".formatted(i, i));
    }
    work.rung("0016-bin-16", "CREATE TABLE bin_16 (id bigint PRIMARY KEY);", "SELECT 1;");
    String next = "next  get the file back, or ladder rollback dev --absent";
    Workspace.Run drift =
        work.ladder("drift", "dev")
            .exits(1)
            .says("Files      15 findings", "  0011 is absent", "\n  and 4 more like these\n")
            .says("  0016 is worn", "Structure  as expected");
    assertThat(drift.out()).containsOnlyOnce(next).doesNotContain("  0012 is absent");
    Workspace.Run check = work.ladder("check", "--against", "dev").exits(1);
    assertThat(check.out())
        .containsOnlyOnce(next)
        .contains("0011 is absent", "and 4 more like these", "15 findings");
    work.ladder("drift", "dev", "--format", "markdown").exits(1).says("- and 4 more like these");
    String json = work.ladder("drift", "dev", "--format", "json").exits(1).out();
    assertThat(new ObjectMapper().readTree(json).get("files")).hasSize(15);
  }

  @Test
  void whatGoesWrongIsToldInEveryFormat() {
    for (String format : new String[] {"text", "markdown"}) {
      work.ladder("drift", "nowhere", "--format", format)
          .exits(2)
          .complains("there is no environment 'nowhere'", "it can be one of");
      work.ladder("compare", "env:nowhere", "rungs", "--format", format)
          .exits(2)
          .complains("there is no environment 'nowhere'");
    }
    work.ladder("drift", "nowhere", "--format", "json")
        .exits(2)
        .says("\"what\" : \"there is no environment 'nowhere'\"");
    work.ladder("drift", "--format", "xml")
        .exits(2)
        .complains("--format is text, json or markdown, not 'xml'");
  }

  @Test
  void whatOthersLookAfterIsLeftOutAndCounted() {
    byHand();
    work.execute("test", "CREATE TABLE bin_2 (id int)");
    String settings = work.text("ladder.yaml");
    work.file("ladder.yaml", settings + "ignore: ['table:legacy_*', 'column:bin_1.fax']\n");
    work.ladder("drift", "test").exits(1).says("2 more that ladder.yaml ignores");
    work.file("ladder.yaml", settings + "ignore: ['table:*']\n");
    work.ladder("drift", "test").exits(0);
    work.file("ladder.yaml", settings + "ignore: [legacy]\n");
    work.ladder("drift", "test")
        .exits(2)
        .complains("ignore holds 'legacy', which is not KIND:NAME", "table:legacy");
  }

  @Test
  void whatIsForgivenIsWrittenIntoTheSettings() {
    byHand();
    String settings = work.text("ladder.yaml");
    work.ladder("drift", "test", "--forgive", "table:legacy_*", "--forgive", "column:bin_1.fax")
        .exits(1)
        .says("1 difference, 2 more that ladder.yaml ignores");
    assertThat(work.text("ladder.yaml"))
        .isEqualTo(settings + "\nignore:\n  - 'table:legacy_*'\n  - 'column:bin_1.fax'\n");
    work.file("ladder.yaml", "ignore: [ ] # none yet\n" + settings);
    work.ladder("drift", "test", "--forgive", "table:bin_2").exits(1);
    work.ladder("drift", "test", "--forgive", "table:l*").exits(1);
    assertThat(work.text("ladder.yaml"))
        .isEqualTo("ignore: [ 'table:bin_2', 'table:l*'] # none yet\n" + settings);
    work.ladder("drift", "test", "--forgive", "legacy").exits(2).complains("not KIND:NAME");
    assertThat(work.text("ladder.yaml")).doesNotContain("'legacy'");
  }

  @Test
  void rungsThatNeedAPersonAreFoundToo() {
    work.file("rungs/0002-bin-2.sql", "--| up\nCREATE TABLE bin_2 (id text);\n");
    work.ladder("drift", "test")
        .exits(1)
        .says("Structure  as expected", "Files      1 finding", "0002 is worn");
    work.execute("test", "UPDATE ladder_journal SET name = 'forged' WHERE number = 1");
    work.ladder("drift", "test").exits(1).says("the chain is broken at entry 1");
  }

  @Test
  void programsReadItAndReviewsShowIt() throws IOException {
    byHand();
    JsonNode drift =
        new ObjectMapper().readTree(work.ladder("drift", "test", "--format", "json").out());
    assertThat(drift.get("clean").asBoolean()).isFalse();
    JsonNode fax = drift.at("/structure/0");
    assertThat(fax.get("change").asText()).isEqualTo("unexpected");
    assertThat(fax.get("kind").asText()).isEqualTo("column");
    assertThat(fax.get("table").asText()).isEqualTo("bin_1");
    assertThat(fax.at("/facts/0/expected").isNull()).isTrue();
    assertThat(fax.at("/facts/0/found").asText()).isEqualTo("varchar(40)");
    assertThat(drift.at("/journal/entries").asInt()).isEqualTo(2);
    JsonNode compared =
        new ObjectMapper()
            .readTree(work.ladder("compare", "env:dev", "env:test", "--format", "json").out());
    assertThat(compared.get("same").asBoolean()).isFalse();
    assertThat(compared.at("/differences/0/change").asText()).isEqualTo("only_right");
    work.ladder("drift", "test", "--format", "markdown")
        .exits(1)
        .says(
            "## Drift on test",
            "| not expected | column bin\\_1.fax | type |  | <code>varchar(40)</code> |");
    work.ladder("compare", "env:dev", "env:test", "--format", "markdown")
        .exits(1)
        .says("## env:dev and env:test", "| only in env:dev | table bin\\_2 |");
  }

  @Test
  void aDatabaseWhoseSnapshotsAreGoneHasNoExpectationUntilTheNextRun() {
    byHand();
    work.execute("test", "DROP TABLE ladder_snapshot");
    work.ladder("drift", "test")
        .exits(1)
        .says(
            "the chain is broken at entry 2: ladder_snapshot does not say any more that it is the last",
            "not known: the journal has entries",
            "Whether test is what its history says cannot be said.",
            "ladder drift test --against rungs");
    work.ladder("drift", "test", "--against", "rungs").exits(1).says("column bin_1.fax");
    work.rung("0003-bin-3", "CREATE TABLE bin_3 (id integer);", "DROP TABLE bin_3;");
    work.ladder("apply", "test")
        .exits(3)
        .complains("ladder settle test --accept-journal --because TEXT");
    work.ladder("settle", "test", "--accept-journal", "--because", "cleaned up").exits(0);
    work.ladder("apply", "test").exits(0);
    work.ladder("drift", "test").exits(0).says("Structure  as expected");
    work.execute("test", "UPDATE ladder_snapshot SET content = 'torn' WHERE content <> ''");
    // What stands is known by its fingerprint; what should stand is asked for where it differs.
    work.ladder("drift", "test").exits(0).says("Structure  as expected");
    work.execute("test", "ALTER TABLE bin_3 ADD COLUMN fax varchar(40)");
    work.ladder("drift", "test").exits(3).complains("a snapshot in ladder_snapshot cannot be read");
  }

  @Test
  void aDatabaseThatHadTablesBeforeItsFirstRungSaysSo() {
    work.execute("live", "CREATE TABLE legacy_fax (id integer)");
    work.ladder("drift", "live").exits(1).says("not expected  table legacy_fax");
    work.ladder("preview", "live")
        .exits(3)
        .says("2 rungs, 4 statements. Nothing was changed.")
        .complains("live is not what its history says: table legacy_fax", "--despite-drift");
    work.ladder("preview", "live", "--format", "json").exits(3).says("\"refusal\" : \"live is not");
    work.ladder("preview", "live", "--despite-drift", "ticket 12").exits(0);
    work.ladder("apply", "live", "--confirm", "live")
        .exits(3)
        .complains("live is not what its history says: table legacy_fax", "--despite-drift");
    work.ladder("apply", "live", "--confirm", "live", "--despite-drift", " ").exits(2);
    work.ladder("apply", "live", "--confirm", "live", "--despite-drift", "ticket 12").exits(0);
    work.ladder("history", "live").exits(0).says("drift accepted", "1 difference; ticket 12");
    work.ladder("drift", "live").exits(1).says("1 difference");
  }

  @Test
  void wrongWordsAreToldWhatWouldBeRight() {
    work.ladder("compare", "env:dev").exits(2);
    work.ladder("compare", "dev", "tst")
        .exits(2)
        .complains("env:NAME, expected:NAME, rungs, schema or entities");
    work.ladder("compare", "env:dev", "env:nowhere").exits(2).complains("no environment 'nowhere'");
    work.ladder("drift", "--format", "html").exits(2).complains("text, json or markdown");
  }

  @Test
  void namesOutOfTheDatabaseAreShownAndNotObeyed() {
    work.execute("test", "CREATE TABLE \"a\u001b[31m|b\" (id integer)");
    work.ladder("drift", "test").exits(1).says("a\\u001b[31m|b");
    work.ladder("drift", "test", "--format", "markdown").exits(1).says("a\\u001b[31m\\|b");
  }

  @Test
  void whatTheRungsAndTheSchemaMakeIsFoundOutInAScratchDatabase() {
    byHand();
    work.ladder("drift", "dev", "--against", "rungs")
        .exits(0)
        .says("as the rungs build it", "dev is what the rungs build.");
    work.ladder("compare", "rungs", "env:test").exits(1).says("only in rungs");
    work.file("schema/tables/bin_1.sql", "CREATE TABLE bin_1 (id integer PRIMARY KEY);\n");
    work.ladder("drift", "dev", "--against", "schema")
        .exits(1)
        .says("not expected  table bin_2", "dev is not what schema/ declares.");
    work.ladder("drift", "dev", "--against", "files")
        .exits(2)
        .complains("expected, rungs or schema");
  }

  @Test
  void theWayBackIsWrittenAndNothingRuns() {
    byHand();
    work.ladder("drift", "test", "--mend", "back.sql").exits(0).says("nothing was run");
    assertThat(work.text("back.sql"))
        .contains("ALTER TABLE bin_1 DROP COLUMN fax;", "DROP TABLE legacy_fax;", "CREATE TABLE");
    work.ladder("drift", "test").exits(1);
    for (String statement : work.text("back.sql").replaceAll("(?m)^--.*", "").split(";\n")) {
      if (!statement.isBlank()) {
        work.execute("test", statement);
      }
    }
    work.ladder("drift", "test").exits(0);
  }

  @Test
  void whatWasFoundIsMadeOfficial() {
    byHand();
    work.ladder("drift", "test", "--as-rung", "fax", "by", "hand")
        .exits(0)
        .says("Wrote rungs/0003-fax-by-hand.sql and recorded it as in place on test");
    work.ladder("drift", "test").exits(0);
    work.ladder("status", "test").exits(0).says("0003");
    work.ladder("apply", "dev").exits(0);
    work.ladder("compare", "env:dev", "env:test").exits(0);
    work.ladder("rollback", "dev", "--yes").exits(0);
    work.ladder("drift", "test", "--as-rung", "nothing")
        .exits(3)
        .complains("nothing to make part of the ladder");
  }

  @Test
  void aStructureIsShownAsSqlThatBuildsIt() {
    work.ladder("show", "dev", "--ddl")
        .exits(0)
        .says("CREATE TABLE bin_1 (", "CREATE TABLE bin_2 (");
    work.ladder("show", "dev", "--ddl", "--table", "bin_2").exits(0).says("CREATE TABLE bin_2 (");
    work.ladder("show", "dev", "--ddl", "--table", "nowhere")
        .exits(2)
        .complains("there is no table");
    work.ladder("show", "dev", "--ddl", "--rows", "3").exits(2);
  }

  @Test
  void aPreviewIsPastedIntoAReview() {
    work.rung("0003-bins", "CREATE TABLE bin_3 (id int);", "DROP TABLE bin_3;");
    work.ladder("preview", "dev", "--format", "markdown")
        .exits(0)
        .says("## What apply would do on dev", "```sql", "CREATE TABLE bin_3 (id int);", "1 rung.");
  }
}
