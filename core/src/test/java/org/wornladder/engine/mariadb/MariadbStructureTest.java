package org.wornladder.engine.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.TestLadder;
import org.wornladder.change.CreationScript;
import org.wornladder.change.Differences;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Facts;
import org.wornladder.schema.Snapshot;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** What MariaDB's information schema tells in another way than a statement would. */
class MariadbStructureTest {
  @TempDir Path root;
  private TestDatabase database;

  @BeforeEach
  void make() {
    database = TestDatabase.make(Kind.MARIADB, root);
  }

  private Snapshot structure(TestDatabase of) {
    return TestLadder.on(of, root).open().show(Optional.of("dev")).schema().snapshot();
  }

  @Test
  void whatWasMadeUnderAnotherModeIsMadeUnderItAgain() {
    database.execute(
        "SET sql_mode = 'ANSI_QUOTES,PIPES_AS_CONCAT'",
        "CREATE FUNCTION joined(a varchar(9)) RETURNS varchar(20) DETERMINISTIC RETURN \"a\" || 'x'");
    Snapshot read = structure(database);
    assertThat(read.objects().get(0).fact("sql mode")).hasValue("PIPES_AS_CONCAT,ANSI_QUOTES");
    List<String> statements =
        CreationScript.of(read.objects(), new MariadbDdl(MariadbServer.MARIADB)).statements();
    database.execute("DROP FUNCTION joined");
    database.execute(statements.toArray(String[]::new));
    assertThat(structure(database)).isEqualTo(read);
    assertThat(database.query("SELECT joined('a')")).containsExactly("ax");
  }

  @Test
  void theDatabasesOwnNameIsNoPartOfAnExpression() throws Exception {
    String[] made = {
      "CREATE SEQUENCE ticket",
      "CREATE TABLE bin (id int DEFAULT nextval(ticket), twice int AS (id * 2) VIRTUAL)"
    };
    database.execute(made);
    TestDatabase other =
        TestDatabase.make(Kind.MARIADB, Files.createDirectories(root.resolve("other")));
    other.execute(made);
    assertThat(Differences.between(structure(database), structure(other))).isEmpty();
  }

  @Test
  void triggersRunInTheOrderInWhichTheyStood() {
    database.execute(
        "CREATE TABLE bin (id int)",
        "CREATE TRIGGER b BEFORE INSERT ON bin FOR EACH ROW SET NEW.id = NEW.id + 1",
        "CREATE TRIGGER c BEFORE INSERT ON bin FOR EACH ROW SET NEW.id = NEW.id * 2",
        "CREATE TRIGGER a BEFORE INSERT ON bin FOR EACH ROW PRECEDES c SET NEW.id = NEW.id - 3");
    List<String> statements =
        CreationScript.of(structure(database).objects(), new MariadbDdl(MariadbServer.MARIADB))
            .statements();
    database.execute("DROP TABLE bin");
    database.execute(statements.toArray(String[]::new));
    database.execute("INSERT INTO bin VALUES (10)");
    assertThat(database.query("SELECT id FROM bin")).containsExactly("16");
  }

  @Test
  void aForeignKeyMayPointToAnotherDatabase() throws Exception {
    TestDatabase other =
        TestDatabase.make(Kind.MARIADB, Files.createDirectories(root.resolve("other")));
    other.execute("CREATE TABLE crate (id int PRIMARY KEY)");
    String name = other.query("SELECT database()").get(0);
    database.execute("CREATE TABLE bin (id int REFERENCES " + name + ".crate (id))");
    Snapshot read = structure(database);
    assertThat(
            CreationScript.of(read.objects(), new MariadbDdl(MariadbServer.MARIADB))
                .statements()
                .toString())
        .contains(" REFERENCES " + name + ".crate (id)");
    database.execute("DROP TABLE bin");
    database.execute(
        CreationScript.of(read.objects(), new MariadbDdl(MariadbServer.MARIADB))
            .statements()
            .toArray(String[]::new));
    assertThat(structure(database)).isEqualTo(read);
    database.execute("DROP TABLE bin");
  }

  @Test
  void anEventBeginsWhenItWasMadeUnlessSomebodySaysWhen() {
    database.execute(
        "CREATE EVENT tidy ON SCHEDULE EVERY 1 DAY DO DELETE FROM bin",
        "SET time_zone = '+05:00'",
        "CREATE EVENT sweep ON SCHEDULE EVERY 1 DAY DO DELETE FROM bin",
        "CREATE EVENT later ON SCHEDULE EVERY 1 DAY STARTS '2032-11-23 06:00:00'"
            + " DO DELETE FROM bin");
    List<DatabaseObject> events = structure(database).objects();
    assertThat(events).extracting(DatabaseObject::name).containsExactly("later", "sweep", "tidy");
    DatabaseObject later = events.get(0);
    assertThat(later.fact(Facts.DEFINITION).orElseThrow()).contains("STARTS '2032-11-23 06:00:00'");
    assertThat(later.fact("time zone")).hasValue("+05:00");
    for (DatabaseObject event : events.subList(1, 3)) {
      assertThat(event.fact(Facts.DEFINITION).orElseThrow())
          .contains("ON SCHEDULE EVERY 1 DAY ON COMPLETION");
      assertThat(event.fact("time zone")).isEmpty();
    }
    assertThat(CreationScript.of(events, new MariadbDdl(MariadbServer.MARIADB)).leftOut())
        .isEmpty();
  }
}
