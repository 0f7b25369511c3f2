package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Every mistake gets a clear word and loses nothing. */
class BadInputIT {
  private static final String RUNG = "rungs/0002-bins.sql";

  @TempDir Path folder;
  private Workspace work;

  @BeforeEach
  void project() {
    work = Workspace.hollowfield(folder).tables(1);
  }

  @Test
  void notAProjectFolder() throws IOException {
    Path empty = Files.createDirectory(folder.resolve("empty"));
    for (String command : new String[] {"status", "apply", "check", "preview", "history", "show"}) {
      work.ladder(command, "--project", empty.toString())
          .exits(2)
          .complains("there is no ladder.yaml", "ladder init", "--project DIR");
    }
    work.ladder("--project", "nowhere", "status").exits(2).complains("nowhere");
  }

  @Test
  void unknownEnvironment() {
    work.ladder("apply", "tset")
        .exits(2)
        .complains("there is no environment 'tset'", "did you mean test?");
    work.ladder("status", "x1234").exits(2).complains("it can be one of: dev, test, live");
  }

  @Test
  void emptyBinaryAndHugeRungs() throws IOException {
    work.file(RUNG, "");
    work.ladder("apply").exits(2).complains(RUNG, "there is no way up");
    Files.write(folder.resolve(RUNG), new byte[] {'-', '-', '|', ' ', 'u', 'p', '\n', 0, 1, 2});
    work.ladder("apply").exits(2).complains(RUNG + ":2:1", "not a text file");
    Files.write(
        folder.resolve(RUNG), new byte[] {'-', '-', '|', ' ', 'u', 'p', '\n', 'x', (byte) 0xff});
    work.ladder("apply").exits(2).complains(RUNG + ":2:2", "not UTF-8");
    try (RandomAccessFile file = new RandomAccessFile(folder.resolve(RUNG).toFile(), "rw")) {
      file.setLength(100L << 20);
    }
    work.variable("JAVA_TOOL_OPTIONS", "-Xmx64m");
    assertThat(work.ladder("apply").exits(2).err()).contains("the file is 100 MB large");
    assertThat(folder.resolve("data/dev.db")).doesNotExist();
  }

  @Test
  void aRungThatCannotBeRead() throws IOException {
    Files.createSymbolicLink(folder.resolve(RUNG), Path.of("missing.sql"));
    work.ladder("apply").exits(2).complains(RUNG, "cannot be read", "No such file");
    Files.delete(folder.resolve(RUNG));
    Files.createDirectory(folder.resolve(RUNG));
    work.ladder("apply").exits(2).complains(RUNG, "cannot be read", "Is a directory");
    Files.delete(folder.resolve(RUNG));
    Path secret = Files.writeString(folder.getParent().resolve("outside.sql"), "--| up\nSELECT 1;");
    Files.createSymbolicLink(folder.resolve(RUNG), secret);
    work.ladder("apply").exits(2).complains("this link leads out of the project");
    Files.delete(secret);
  }

  @Test
  void aWrongOptionIsSaidInJsonWhereThatWasAskedFor() {
    work.ladder("status", "--format", "json", "--bogus")
        .exits(2)
        .says("\"what\" : \"Unknown option: '--bogus'\"", "\"exit_code\" : 2");
  }

  @Test
  void whatPromotionHoldsBackIsSaidOnce() {
    work.tables(3);
    work.ladder("apply", "live", "--confirm", "live")
        .exits(3)
        .complains("0001 and 2 more are not in place on test, from which live is promoted");
  }

  @Test
  void twoRungsWithOneNumberAndAGap() {
    work.rung("1-again", "SELECT 1;", "SELECT 1;");
    work.ladder("apply").exits(2).complains("has the same number", "0001-bin-1.sql");
    work.delete("rungs/1-again.sql").rung("0007-bins", "SELECT 1;", "SELECT 1;");
    work.ladder("check").exits(0).says("2 rungs read; nothing is wrong.");
    work.ladder("apply").exits(0).says("dev is at 0007");
  }

  @Test
  void wrongDirectivesQuotesAndValues() {
    work.file(RUNG, "--| abuot: x\n--| up\nSELECT 1;");
    work.ladder("apply")
        .exits(2)
        .complains(RUNG + ":1:1", "unknown directive 'abuot'", "did you mean about?");
    work.file(RUNG, "--| up\nSELECT 1;\nSELECT 'open;\n");
    work.ladder("apply").exits(2).complains(RUNG + ":3:8", "this string is never ended");
    work.ladder("check").exits(1).says(RUNG + ":3:8");
    work.file(RUNG, "--| up\nSELECT '@{seson}';\n");
    work.ladder("apply")
        .exits(2)
        .complains(RUNG + ":2:9", "unknown value 'seson'", "did you mean season?");
    assertThat(folder.resolve("data/dev.db").toFile().length()).isZero();
  }

  @Test
  void missingVariablesAndMalformedYaml() {
    String settings = work.text("ladder.yaml");
    work.variable("READER_PASSWORD", "x")
        .file("ladder.yaml", settings.replace("READER_PASSWORD", "NO_SUCH"));
    work.ladder("apply")
        .exits(2)
        .complains("the variable NO_SUCH is not set; dev needs it", "ladder.yaml:8:");
    work.file("ladder.yaml", "name: [a\n");
    work.ladder("apply").exits(2).complains("ladder.yaml:", "this is not YAML");
    work.file("ladder.yaml", "");
    work.ladder("status").exits(2).complains("ladder.yaml", "empty");
    work.file("ladder.yaml", "name: x\nenvironments: {dev: {url: jdbc:oracle:x}}\n");
    work.ladder("status")
        .exits(4)
        .complains(
            "no engine here knows this url, and no JDBC driver is there",
            "built in are jdbc:sqlite:",
            "drivers");
  }

  @Test
  void databaseFilesThatCannotBeUsed() throws IOException {
    work.file(
        "data/dev.db",
        "this is no database, and long enough to have a header of its own. ".repeat(9));
    for (String command : new String[] {"status", "apply", "preview", "history", "show"}) {
      work.ladder(command)
          .exits(4)
          .complains("is not a SQLite database", "environment dev, data/dev.db");
    }
    work.delete("data/dev.db");
    Files.createDirectory(folder.resolve("data/dev.db"));
    work.ladder("apply").exits(4).complains("the database is a folder");
    String settings = work.text("ladder.yaml");
    work.file("ladder.yaml", settings.replace("data/dev.db", "elsewhere/dev.db"));
    work.ladder("apply")
        .exits(4)
        .complains("the folder of the database is missing", "mkdir -p elsewhere");
    work.ladder("status").exits(4).complains("mkdir -p elsewhere");
    work.file(
        "ladder.yaml",
        settings.replace("jdbc:sqlite:data/dev.db", "'jdbc:sqlite:file:data/test.db?mode=ro'"));
    work.ladder("apply", "test").exits(0);
    work.tables(2);
    work.ladder("apply", "dev").exits(4).complains("the database is read-only");
    work.ladder("status", "dev").exits(0).says("dev is at 0001");
  }

  @Test
  void aFullDiskLosesNothing() throws IOException {
    Path small = Files.createDirectory(folder.resolve("small"));
    work.file("ladder.yaml", work.text("ladder.yaml").replace("data/dev.db", "small/dev.db"));
    work.rung(
        "0002-many",
        "CREATE TABLE many (text text);\nWITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n"
            + " WHERE i < 2000)\nINSERT INTO many SELECT hex(randomblob(500)) FROM n;",
        "DROP TABLE many;");
    String script =
        "mount -t tmpfs -o size=300k tmpfs %s && { %s apply; code=$?; %s status; exit $code; }"
            .formatted(
                small,
                Workspace.DISTRIBUTION.resolve("bin/ladder"),
                Workspace.DISTRIBUTION.resolve("bin/ladder"));
    Workspace.Run run = work.run(java.util.List.of("unshare", "-rm", "sh", "-c", script));
    org.junit.jupiter.api.Assumptions.assumeFalse(
        run.err().contains("unshare") || run.err().contains("mount:"), "no right to mount here");
    run.exits(5)
        .complains(
            "0002 failed on dev: database or disk is full",
            "make room on the disk",
            "nothing of it")
        .says("dev is at 0001");
  }

  @Test
  void textFromFilesAndDatabasesIsNeverObeyed() {
    work.file(
        RUNG,
        "--| about: Bins \u001b[31mred\u0007 \u202eturned\n--| up\nCREATE TABLE bin (a text);\n"
            + "INSERT INTO bin VALUES ('\u001b[2Jgone' || char(10) || 'x');\n");
    for (String[] command :
        new String[][] {
          {"preview"}, {"apply"}, {"status"}, {"show", "--table", "bin"}, {"history"}
        }) {
      Workspace.Run run = work.ladder(command).exits(0);
      assertThat(run.out() + run.err()).doesNotContain("\u001b", "\u0007", "\u202e");
    }
    work.ladder("status").says("Bins \\u001b[31mred\\u0007 \\u202eturned");
    work.ladder("show", "--table", "bin").says("\\u001b[2Jgone\\nx");
  }

  @Test
  void oddNamesWork() {
    work.rung(
        "0002-ödd 'names'-中文",
        "CREATE TABLE \"o'dd \"\"table\" (\"select\" integer PRIMARY KEY, \"größe 中\" text);\n"
            + "CREATE TABLE [order] (`group` integer REFERENCES \"o'dd \"\"table\" (\"select\"));",
        "DROP TABLE \"order\";\nDROP TABLE \"o'dd \"\"table\";");
    work.ladder("apply").exits(0).says("3 tables, 4 columns and 1 foreign key added");
    work.ladder("status").says("ödd 'names' 中文");
    work.ladder("show").says("o'dd \"table", "select, größe 中", "order");
    work.ladder("show", "--table", "o'dd \"table").exits(0).says("größe 中");
    work.ladder("show", "--table", "ordr").exits(2).complains("did you mean order?");
    work.ladder("rollback").exits(0).says("2 tables, 3 columns and 1 foreign key dropped");
  }

  @Test
  void aJournalThatWasTouchedIsReportedAndNothingRuns() {
    work.tables(3).ladder("apply").exits(0);
    work.tables(4)
        .execute("dev", "UPDATE ladder_journal SET script = 'DROP TABLE bin_3' WHERE number = 2");
    work.ladder("history").exits(1).says("The chain is broken at entry 2: it was edited");
    work.ladder("check", "--against", "dev")
        .exits(1)
        .says("the journal's chain is broken at entry 2");
    work.ladder("apply")
        .exits(3)
        .complains("the journal's chain is broken at entry 2", "ladder history dev");
    work.ladder("rollback").exits(3).complains("broken");
    work.execute("dev", "DELETE FROM ladder_journal WHERE number = 2");
    work.ladder("history").exits(1).says("broken at entry 3: an entry is missing before it");
    assertThat(work.tablesOf("dev")).containsExactly("bin_1", "bin_2", "bin_3");
  }

  @Test
  void theLastEntryIsMissedAndMayBeKeptElsewhere() {
    work.tables(3).ladder("apply").exits(0);
    String head = work.ladder("history", "--head").exits(0).out().strip();
    assertThat(head).matches("3:[0-9a-f]{64}");
    work.ladder("check", "--against", "dev", "--head", head).exits(0);
    work.ladder("check", "--head", head).exits(2).complains("--against ENV");
    work.ladder("check", "--against", "dev", "--head", "3").exits(2).complains("NUMBER:HASH");
    work.execute("dev", "DELETE FROM ladder_journal WHERE number = 3");
    work.ladder("history")
        .exits(1)
        .says("broken at entry 3: ladder_snapshot says that 3 was the last", "--accept-journal");
    work.ladder("history", "--head").exits(1);
    work.execute("dev", "DROP TABLE ladder_journal").execute("dev", "DROP TABLE ladder_snapshot");
    work.ladder("check", "--against", "dev").exits(0);
    work.ladder("check", "--against", "dev", "--head", head)
        .exits(1)
        .says("the journal has no entry 3 with the hash that --head names");
    work.ladder("settle", "--accept-journal", "--because", "x").exits(3).complains("chain holds");
  }

  @Test
  void aTableOfTheJournalsNameThatSomebodyElseMade() {
    work.execute("dev", "CREATE TABLE ladder_journal (a text)");
    work.ladder("apply").exits(3).complains("is not a journal of this version", "journal: table:");
    work.execute("dev", "DROP TABLE ladder_journal").ladder("apply").exits(0);
    work.execute("dev", "UPDATE ladder_journal SET event = 'unheard-of'");
    work.ladder("status").exits(3).complains("a newer version wrote it");
  }

  @Test
  void aStructureThatIsTooLargeForTheMemory() throws SQLException {
    work.ladder("apply").exits(0);
    String columns =
        IntStream.range(0, 900).mapToObj(i -> "c" + i + " int").collect(Collectors.joining(", "));
    String url = "jdbc:sqlite:" + folder.resolve("data/dev.db");
    try (Connection connection = DriverManager.getConnection(url);
        Statement sql = connection.createStatement()) {
      connection.setAutoCommit(false);
      for (int i = 0; i < 200; i++) {
        sql.execute("CREATE TABLE crate_" + i + " (" + columns + ")");
      }
      connection.commit();
    }
    work.variable("JAVA_TOOL_OPTIONS", "-Xmx16m");
    work.ladder("show")
        .exits(70)
        .complains("more memory than the", "JAVA_TOOL_OPTIONS=-Xmx", "run it again");
    work.variable("JAVA_TOOL_OPTIONS", "-Xmx512m");
    assertThat(work.ladder("drift").exits(1).out()).contains("crate_199");
  }
}
