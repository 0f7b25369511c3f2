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
import org.wornladder.schema.Element;
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
  void whatWasMadeUnderAnotherModeIsNamedAndNotWritten() {
    database.execute(
        "SET sql_mode = 'ANSI_QUOTES,PIPES_AS_CONCAT'",
        "CREATE FUNCTION joined(a varchar(9)) RETURNS varchar(20) DETERMINISTIC RETURN \"a\" || 'x'");
    Element joined = structure(database).elements().get(0);
    assertThat(joined.fact("sql mode")).hasValue("ANSI_QUOTES, PIPES_AS_CONCAT");
    assertThat(CreationScript.of(List.of(joined), new MariadbDdl()).leftOut())
        .containsExactly(joined);
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
        CreationScript.of(structure(database).elements(), new MariadbDdl()).statements();
    database.execute("DROP TABLE bin");
    statements.forEach(database::execute);
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
    assertThat(CreationScript.of(read.elements(), new MariadbDdl()).statements().toString())
        .contains(" REFERENCES `" + name + "`.`crate` (id)");
    database.execute("DROP TABLE bin");
    CreationScript.of(read.elements(), new MariadbDdl()).statements().forEach(database::execute);
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
    List<Element> events = structure(database).elements();
    assertThat(events).extracting(Element::name).containsExactly("later", "sweep", "tidy");
    Element later = events.get(0);
    assertThat(later.fact(Element.DEFINITION).orElseThrow())
        .contains("STARTS '2032-11-23 06:00:00'");
    assertThat(later.fact("time zone")).hasValue("+05:00");
    for (Element event : events.subList(1, 3)) {
      assertThat(event.fact(Element.DEFINITION).orElseThrow())
          .contains("ON SCHEDULE EVERY 1 DAY ON COMPLETION");
      assertThat(event.fact("time zone")).isEmpty();
    }
    assertThat(CreationScript.of(events, new MariadbDdl()).leftOut()).containsExactly(later);
  }
}
