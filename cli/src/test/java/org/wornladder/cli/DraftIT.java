package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import javax.xml.parsers.DocumentBuilderFactory;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.cli.Workspace.Run;

/** Drafts, rehearsals, scripts and what follows an apply, through the built program. */
class DraftIT {
  private static final String BIN =
      "CREATE TABLE bin (code text NOT NULL PRIMARY KEY, wt integer);";

  @TempDir Path folder;
  private Workspace work;

  @BeforeEach
  void bins() {
    work = Workspace.hollowfield(folder);
    work.rung("0001-bins", BIN + "\nINSERT INTO bin VALUES ('a', 5);", "DROP TABLE bin;");
    work.ladder("apply").exits(0);
    work.file("schema/tables/bin.sql", BIN);
  }

  @Test
  void anEditOfTheDeclaredStructureGoesBothWays() {
    work.ladder("draft", "nothing").exits(0).says("there is nothing to draft");
    work.file(
        "schema/tables/bin.sql", BIN.replace("wt integer", "wt integer, grade text NOT NULL"));
    work.ladder("draft", "grades", "--fill", "bin.grade='U'")
        .exits(0)
        .says("column bin.grade", "breaks-old-code", "Wrote rungs/0002-grades.sql", "proved");
    work.ladder("apply").exits(0);
    work.ladder("show", "--table", "bin").exits(0).says("U");
    work.ladder("drift", "--against", "schema").exits(0);
    work.ladder("rollback").exits(0);
    work.ladder("apply").exits(0);
    work.file(
        "schema/tables/bin.sql",
        BIN.replace("wt integer", "wt integer, grade text NOT NULL, note text"));
    work.ladder("draft", "--extend")
        .exits(3)
        .complains("0002-grades.sql is in place on dev", "--yes");
    work.ladder("apply", "test").exits(0);
    work.ladder("draft", "--extend", "--yes")
        .exits(0)
        .says("Wrote rungs/0002-grades.sql")
        .complains("ladder rollback test --from-journal, then ladder apply test");
    work.ladder("rollback", "test", "--from-journal", "--yes").exits(0);
    work.ladder("apply", "test").exits(0);
    work.ladder("drift", "test", "--against", "schema").exits(0);
    assertThat(work.text("rungs/0002-grades.sql")).contains("note");
    work.ladder("status").exits(0).says("Nothing waits");
  }

  @Test
  void aPossibleRenameIsSaidAndSettledByAnOption() throws Exception {
    work.file("schema/tables/bin.sql", BIN.replace("wt", "weight_kg"));
    work.ladder("draft", "kilos", "--dry-run")
        .exits(1)
        .says(
            "is bin.wt now bin.weight_kg?",
            "--renamed bin.wt=bin.weight_kg",
            "Nothing was written");
    Run json =
        work.ladder("draft", "kilos", "--renamed", "bin.wt=bin.weight_kg", "--format", "json");
    JsonNode draft = new ObjectMapper().readTree(json.exits(0).out());
    assertThat(draft.get("not_proved").isNull()).isTrue();
    assertThat(draft.get("text").asText()).contains("RENAME COLUMN wt TO weight_kg");
    work.ladder("draft", "kilos", "--dry-run", "--format", "markdown").exits(0);
  }

  @Test
  void whatCannotBeMeantIsRefusedWithWords() {
    work.ladder("draft").exits(2).complains("name what the rung is for");
    work.ladder("draft", "x", "--fill", "nonsense").exits(2).complains("--fill takes a name");
    work.ladder("draft", "x", "--only", "bin").exits(2).complains("--only takes KIND:NAME");
    work.ladder("draft", "x", "--renamed", "crate=box").exits(3).complains("crate");
    work.ladder("draft", "--to-database", "live", "--yes").exits(3).complains("live is guarded");
    work.ladder("draft", "--down", "9").exits(3).complains("there is no rung 9");
    work.file("schema/tables/bin.sql", "CREATE TABLE bin (code text,,);");
    work.ladder("draft", "x").exits(2).complains("schema/tables/bin.sql:1:1");
    work.delete("schema/tables/bin.sql");
    work.ladder("draft", "x").exits(3).complains("schema/ has no files", "--refresh-files");
    work.ladder("draft", "--refresh-files").exits(0).says("schema/tables/bin.sql");
  }

  @Test
  void aDatabaseIsBroughtToTheFilesOnlyAfterAYes() {
    work.file("schema/tables/bin.sql", BIN.replace("wt integer", "wt integer, note text"));
    work.ladder("draft", "--to-database", "dev").exits(3).complains("without a rung", "--yes");
    work.ladder("draft", "--to-database", "dev", "--yes").exits(0).says("ADD COLUMN note");
    work.ladder("drift", "--against", "schema").exits(0);
    work.ladder("draft", "--to-files", "dev").exits(0).says("already");
  }

  @Test
  void aRehearsalIsReadByPeopleAndBuildServers() throws Exception {
    work.rung("0002-grades", "ALTER TABLE bin ADD COLUMN grade text;", "SELECT 1;");
    work.ladder("rehearse").exits(1).says("NOT proved", "column bin.grade is still there");
    Run junit = work.ladder("rehearse", "--format", "junit").exits(1);
    var xml =
        DocumentBuilderFactory.newInstance()
            .newDocumentBuilder()
            .parse(new ByteArrayInputStream(junit.out().getBytes(StandardCharsets.UTF_8)));
    assertThat(xml.getElementsByTagName("failure").getLength()).isOne();
    work.rung(
        "0002-grades",
        "ALTER TABLE bin ADD COLUMN grade text;",
        "ALTER TABLE bin DROP COLUMN grade;");
    work.ladder("rehearse", "--from-blank").exits(0).says("2 rungs proved");
    work.ladder("rehearse", "--format", "markdown").exits(0).says("| 0002 grades | proved |");
    work.ladder("status", "--waiting").exits(1);
  }

  @Test
  void aGuardedDatabaseIsToldWhatARungErases() {
    work.rung("0002-slim", "ALTER TABLE bin DROP COLUMN wt;", "ALTER TABLE bin ADD COLUMN wt int;");
    work.ladder("preview")
        .exits(0)
        .says("erases", "column bin.wt: its values are gone (1 row now)");
    work.ladder("apply").exits(0);
    work.ladder("apply", "test").exits(0);
    work.ladder("apply", "live", "--confirm", "live")
        .exits(3)
        .complains(
            "0002 erases, and does not say that it is meant", "accepts: erases, because TEXT");
    work.file(
        "rungs/0002-slim.sql",
        "--| accepts: erases, because nobody weighs\n" + work.text("rungs/0002-slim.sql"));
    work.ladder("apply", "live", "--confirm", "live").exits(0);
    work.file("rungs/0003-x.sql", "--| accepts: eraces\n--| up\nSELECT 1;\n");
    work.ladder("check").exits(1).says("'eraces' is not a risk", "accepts gives no reason");
  }

  @Test
  void aCommandFollowsAnApplyThatSucceeded() throws Exception {
    work.ladder("ready").exits(0).says("dev is ready");
    work.rung("0002-crates", "CREATE TABLE crate (id integer);", "DROP TABLE crate;");
    work.ladder("ready").exits(1).says("1 rung waits", "ladder apply dev");
    work.ladder("apply", "--then", "no-such-command").exits(2).complains("nothing was applied");
    work.ladder("apply", "--then", "sh", "-c", "echo started; exit 7").exits(7).says("started");
    work.ladder("ready", "--format", "json").exits(0).says("\"ready\" : true");
    work.rung("0003-wrong", "CREATE TABLE crate (id integer);", "SELECT 1;");
    work.ladder("apply", "--then", "touch", folder.resolve("started").toString()).exits(5);
    assertThat(Files.exists(folder.resolve("started"))).isFalse();
  }

  @Test
  void aRehearsalNeedsNoAccessToTheDatabaseThatItIsFor() throws Exception {
    work.ladder("apply", "test").exits(0);
    work.ladder("status", "test", "--export-expected", "test.expected").exits(0).says("Wrote");
    work.ladder("status", "test", "--export-expected", "test.expected").exits(3);
    assertThat(work.text("test.expected")).contains("\"bins\"").doesNotContain("'a'");
    Files.delete(folder.resolve("data/test.db"));
    work.rung("0002-grades", "ALTER TABLE bin ADD COLUMN grade text;", "SELECT 1;");
    work.ladder("rehearse", "--expected", "test.expected")
        .exits(1)
        .says("what test should have, as its file says", "0002", "NOT proved");
    work.rung(
        "0002-grades",
        "ALTER TABLE bin ADD COLUMN grade text;",
        "ALTER TABLE bin DROP COLUMN grade;");
    work.ladder("rehearse", "--expected", "test.expected").exits(0).says("1 rung proved");
    work.rung("0001-bins", "CREATE TABLE bin (edited text);", "DROP TABLE bin;");
    work.ladder("rehearse", "--expected", "test.expected").exits(1).says("0001 is worn");
    work.file("test.expected", "nonsense");
    work.ladder("rehearse", "--expected", "test.expected")
        .exits(2)
        .complains("test.expected:1:1", "export it again");
    work.ladder("rehearse", "--expected", "none").exits(2).complains("the file cannot be read");
  }

  @Test
  void auditorsGetTheJournalSinceATimeAsATable() {
    work.rung("0002-a", "CREATE TABLE \"o, \"\"dd\" (id integer);", "SELECT 1;");
    work.ladder("apply").exits(0);
    String csv = work.ladder("history", "--format", "csv").exits(0).out();
    assertThat(csv.lines()).hasSize(3).first().asString().startsWith("entry,at,event,rung,name");
    assertThat(csv).contains(",applied,2,a,");
    assertThat(
            work.ladder("history", "--since", "2100-01-01", "--format", "csv")
                .exits(0)
                .out()
                .lines())
        .hasSize(1);
    work.ladder("history", "--since", "2020-01-01T00:00").exits(0).says("2 entries");
    work.ladder("history", "--since", "yesterday").exits(2).complains("--since wants a time");
  }

  @Test
  void aScriptIsWrittenAndNothingIsRun() {
    work.rung("0002-crates", "CREATE TABLE crate (id integer);", "DROP TABLE crate;");
    work.ladder("preview", "--script", "change.sql").exits(0).says("Wrote change.sql with 1 rung");
    assertThat(work.text("change.sql")).contains("CREATE TABLE crate", "ladder_journal");
    work.ladder("preview", "--script", "change.sql")
        .exits(3)
        .complains("change.sql is there already");
    work.ladder("status", "--waiting").exits(1);
  }
}
