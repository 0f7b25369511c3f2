package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What happens to rungs on their way up and down, beyond the plain case. */
class ApplyIT {
  @TempDir Path folder;
  private Workspace work;

  @BeforeEach
  void project() {
    work = Workspace.hollowfield(folder);
  }

  @Test
  void aFailingStatementLeavesNothingAndSaysWhereAndWhy() {
    work.tables(1)
        .rung("0002-grades", "CREATE TABLE grade (code text);\nINSERT INTO grad VALUES (1);", "");
    work.ladder("apply")
        .exits(5)
        .complains(
            "0002 failed on dev: no such table: grad",
            "rungs/0002-grades.sql:3:1",
            "INSERT INTO grad VALUES (1)",
            "nothing of it; the step before it is in place",
            "ladder apply dev");
    assertThat(work.tablesOf("dev")).containsExactly("bin_1");
    assertThat(work.events("dev")).containsExactly("applied bin 1", "failed grades");
    work.ladder("status").exits(0).says("┣━   ━┫  0002", "failed");
    work.rung("0002-grades", "CREATE TABLE grade (code text);", "DROP TABLE grade;");
    work.ladder("apply").exits(0).says("dev is at 0002");
  }

  @Test
  void aDeferredForeignKeyThatFailsAtTheCommitLeavesNothing() {
    work.rung(
        "0001-keys",
        "CREATE TABLE a (id integer PRIMARY KEY);\n"
            + "CREATE TABLE b (a_id integer REFERENCES a (id) DEFERRABLE INITIALLY DEFERRED);\n"
            + "INSERT INTO b VALUES (7);",
        "DROP TABLE b; DROP TABLE a;");
    work.ladder("apply").exits(5).complains("FOREIGN KEY constraint failed", "rungs/0001-keys.sql");
    assertThat(work.tablesOf("dev")).isEmpty();
    work.file(
        "ladder.yaml", work.text("ladder.yaml").replace("disposable: true", "foreign-keys: off"));
    work.ladder("apply").exits(0);
  }

  @Test
  void togetherIsAllOrNothing() {
    work.tables(3).rung("0004-wrong", "SELECT * FROM nowhere;", "");
    work.ladder("apply", "--together").exits(5).complains("nothing of this run");
    assertThat(work.tablesOf("dev")).isEmpty();
    work.delete("rungs/0004-wrong.sql");
    work.ladder("preview", "--together").exits(0).says("all in one transaction");
    work.ladder("apply", "--together").exits(0).says("dev is at 0003. 3 rungs");
  }

  @Test
  void anEditedRungIsCaughtAndLayoutIsNoEdit() {
    work.tables(2).ladder("apply").exits(0);
    String rung = work.text("rungs/0001-bin-1.sql");
    work.file(
        "rungs/0001-bin-1.sql",
        rung.replace("(id", "(\n  id -- the number\n ").replace("\n", "\r\n"));
    work.ladder("check", "--against", "dev").exits(0);
    work.file("rungs/0001-bin-1.sql", rung.replace("PRIMARY KEY", "NOT NULL"));
    work.ladder("status").exits(0).says("┣╍ ╍ ╍┫  0001", "worn", "edited since", "0001 needs you");
    work.ladder("check", "--against", "dev").exits(1).says("0001 is worn");
    work.tables(2).file("rungs/0001-bin-1.sql", rung.replace("PRIMARY KEY", "NOT NULL"));
    work.ladder("apply")
        .exits(3)
        .complains(
            "0001 is worn", "git checkout -- rungs/0001-bin-1.sql", "--to 0000 --from-journal");
    work.ladder("rollback", "--to", "0")
        .exits(3)
        .complains("must come from the journal", "DROP TABLE bin_1");
    work.ladder("settle", "1", "--accept-file").exits(2).complains("--because");
    work.ladder("settle", "1", "--accept-file", "--because", "the same on every database").exits(0);
    work.ladder("apply").exits(0);
    work.ladder("history").says("file accepted", "the same on every database");
    work.ladder("settle", "1", "--accept-file", "--because", "x").exits(3).complains("is not worn");
  }

  @Test
  void aWornRungGoesBackByTheJournalAndUpAnew() {
    work.tables(2).ladder("apply").exits(0);
    work.rung("0001-bin-1", "CREATE TABLE bin_1 (code text);", "DROP TABLE no_such;");
    work.ladder("rollback", "dev", "--to", "0", "--from-journal").exits(0).says("no rung in place");
    work.ladder("apply").exits(0);
    work.ladder("show", "--table", "bin_1").says("code");
  }

  @Test
  void aLateRungIsRefusedUnlessItMayBeLate() {
    work.tables(3).delete("rungs/0002-bin-2.sql");
    work.ladder("apply").exits(0);
    work.tables(3);
    work.ladder("status").says("┃     ┃  0002", "late");
    work.ladder("apply").exits(3).complains("0002 is late: 0003 already ran on dev", "late: allow");
    work.file("ladder.yaml", work.text("ladder.yaml").replace("disposable: true", "late: allow"));
    work.ladder("apply").exits(0).says("1 rung");
    work.ladder("rollback", "--yes").exits(0).complains("0002");
  }

  @Test
  void aRungWhoseFileIsGoneIsTakenBackFromTheJournalBeforeItsValuesWerePutIn() {
    work.rung(
        "0001-readers",
        "CREATE TABLE reader (secret text);\nINSERT INTO reader VALUES (@{reader_password:text});",
        "DELETE FROM reader WHERE secret = @{reader_password:text};\nDROP TABLE reader;");
    work.ladder("preview").exits(0).says("VALUES ('***')").says("***");
    work.ladder("apply").exits(0);
    assertThat(work.query("dev", "SELECT secret FROM reader")).containsExactly("hush-4711");
    assertThat(work.query("dev", "SELECT script || note FROM ladder_journal").get(0))
        .contains("@{reader_password:text}")
        .doesNotContain("hush-4711");
    work.delete("rungs/0001-readers.sql");
    work.ladder("status").says("absent", "in place, no file here");
    work.ladder("check", "--against", "dev").exits(1).says("--absent");
    work.ladder("apply").exits(0).complains("has no file for it");
    work.ladder("rollback", "--absent").exits(0).says("1 table and 1 column dropped");
    assertThat(work.tablesOf("dev")).isEmpty();
  }

  @Test
  void conditionsAreDecidedAtTheirTurn() {
    work.tables(1)
        .file(
            "rungs/0002-late.sql",
            "--| when: table bin_1 exists\n--| when: column bin_1.code missing\n"
                + "--| when-sql: SELECT count(*) FROM bin_1\n--| otherwise: pass\n"
                + "--| up\nALTER TABLE bin_1 ADD COLUMN code text;\n--| down\nALTER TABLE bin_1 DROP COLUMN code;\n")
        .file(
            "rungs/0003-again.sql",
            "--| when: column bin_1.code missing\n--| otherwise: pass\n"
                + "--| up\nALTER TABLE bin_1 ADD COLUMN code text;\n--| down\nDROP TABLE bin_1;\n");
    work.ladder("preview")
        .exits(0)
        .says("when its turn comes: table bin_1 exists and column bin_1.code missing");
    work.ladder("apply")
        .exits(0)
        .says("dev is at 0003. 2 rungs")
        .complains("passed over", "column bin_1.code missing");
    work.ladder("status").says("┠─────┨  0003", "passed over");
    work.ladder("rollback", "--last", "2").exits(0);
    assertThat(work.tablesOf("dev")).containsExactly("bin_1");
    work.file("rungs/0004-stop.sql", "--| when: view stock exists\n--| up\nSELECT 1;\n");
    work.ladder("apply").exits(3).complains("0004 stops the run", "view stock exists");
    work.file(
        "rungs/0004-stop.sql", "--| when-sql: DELETE FROM bin_1 RETURNING id\n--| up\nSELECT 1;\n");
    work.ladder("apply").exits(5).complains("attempt to write a readonly database");
    assertThat(work.query("dev", "SELECT count(*) FROM bin_1")).containsExactly("1");
  }

  @Test
  void aRungForOtherEnvironmentsIsPassedOverHere() {
    work.file(
        "rungs/0001-samples.sql", "--| only-in: dev\n--| up\nCREATE TABLE sample (id integer);\n");
    work.ladder("apply", "test").exits(0).complains("only in dev");
    assertThat(work.tablesOf("test")).isEmpty();
    work.ladder("apply", "dev").exits(0);
    assertThat(work.tablesOf("dev")).containsExactly("sample");
    work.ladder("rollback", "dev").exits(3).complains("0001 has no way down; none was written");
    work.ladder("rollback", "test", "--yes").exits(0);
  }

  @Test
  void aSectionForOneEngineWinsOverThePlainOne() {
    work.file(
        "rungs/0001-bins.sql",
        "--| up\nCREATE TABLE plain (id serial);\n--| up on sqlite\nCREATE TABLE own (id integer);\n"
            + "--| down on postgres\nDROP TABLE plain;\n--| down\nDROP TABLE own;\n");
    work.ladder("apply").exits(0);
    assertThat(work.tablesOf("dev")).containsExactly("own");
    work.ladder("rollback").exits(0);
  }

  @Test
  void aGuardedEnvironmentWantsItsNameAndWhatTestHas() {
    work.tables(1);
    work.ladder("apply", "live", "--confirm", "live")
        .exits(3)
        .complains("0001 is not in place on test");
    work.ladder("apply", "test").exits(0);
    work.ladder("apply", "live", "--yes").exits(3).complains("live is guarded", "--confirm live");
    work.ladder("apply", "live", "--confirm", "test")
        .exits(3)
        .complains("the confirmation names test");
    work.ladder("apply", "live", "--confirm", "live").exits(0);
    work.ladder("rollback", "test").exits(3).complains("nobody is there to ask", "--yes");
    work.ladder("rollback", "live", "--yes").exits(3).complains("live is guarded");
    work.ladder("status", "live", "--waiting").exits(0);
    work.ladder("status", "dev", "--waiting").exits(1);
  }

  @Test
  void statementsThatWouldEndTheTransactionAreFoundBeforeTheRun() {
    work.tables(1)
        .rung(
            "0002-wrong",
            "CREATE TABLE x (id integer);\nCOMMIT;\nPRAGMA foreign_keys = ON;\nVACUUM;",
            "");
    work.ladder("apply")
        .exits(2)
        .complains("rungs/0002-wrong.sql:3:1", "COMMIT would begin or end the transaction")
        .complains("rungs/0002-wrong.sql:4:1", "PRAGMA foreign_keys has no effect", "leave it out")
        .complains("rungs/0002-wrong.sql:5:1", "VACUUM cannot run inside a transaction");
    assertThat(folder.resolve("data/dev.db").toFile().length()).isZero();
    work.ladder("check").exits(1).says("VACUUM");
  }

  @Test
  void aRungOutsideATransactionIsJournalledStatementByStatementAndGoesOn() {
    String rung =
        "--| run: outside-transaction\n--| up\nCREATE TABLE one (id integer);\nVACUUM;\n%s\n--| down\nUPDATE one SET id = 1;\nDROP TABLE one;\n";
    work.file("rungs/0001-outside.sql", rung.formatted("INSERT INTO nowhere VALUES (1);"));
    work.ladder("apply", "--together").exits(3).complains("cannot be part of one for all");
    work.ladder("apply")
        .exits(5)
        .complains("no such table: nowhere", "2 statements of it are done");
    work.ladder("status").says("┣━╸ ╺━┫  0001", "stuck", "after statement 2");
    work.ladder("rollback")
        .exits(3)
        .complains("this statement of its way down does more than drop");
    work.execute("dev", "CREATE TABLE nowhere (id integer)");
    work.ladder("apply").exits(0).says("dev is at 0001");
    assertThat(work.query("dev", "SELECT count(*) FROM nowhere")).containsExactly("1");
    assertThat(work.query("dev", "SELECT event FROM ladder_journal"))
        .startsWith("up-started", "statement-done", "statement-started", "statement-done")
        .endsWith("statement-failed", "statement-done", "applied");
    work.ladder("rollback").exits(0);
    work.ladder("history").exits(0);
  }

  @Test
  void whatIsOneWayOrLateIsPointedOutOnAGuardedEnvironment() {
    work.file(
        "ladder.yaml",
        work.text("ladder.yaml").replace("guarded: true", "guarded: true, late: allow"));
    work.tables(3).delete("rungs/0002-bin-2.sql");
    for (String environment : new String[] {"test", "live"}) {
      work.ladder("apply", environment, "--confirm", environment).exits(0);
    }
    work.file(
        "rungs/0002-late.sql",
        "--| up\nCREATE TABLE late (id integer);\n--| no way down: rows would be lost\n");
    work.file(
        "ladder.yaml", work.text("ladder.yaml").replace("test.db }", "test.db, late: allow }"));
    work.ladder("apply", "test").exits(0).complains("note: 0002 is late: 0003 already ran there");
    work.ladder("preview", "live")
        .exits(0)
        .says("0002 is late", "0002 is one-way: rows would be lost");
    work.ladder("apply", "live", "--confirm", "live")
        .exits(0)
        .complains("note: 0002 is late", "note: 0002 is one-way: rows would be lost");
  }
}
