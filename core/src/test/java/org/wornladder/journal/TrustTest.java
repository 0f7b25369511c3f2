package org.wornladder.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.Against;
import org.wornladder.JournalException;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** A table of the tool's own name that somebody else prepared is not used. */
class TrustTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root).tables(1);
  }

  private void refused(String why) {
    Optional<String> dev = Optional.of("dev");
    for (Runnable command :
        List.<Runnable>of(
            ladder::apply,
            () -> ladder.open().status(dev),
            () -> ladder.open().drift(dev, Against.EXPECTED, false))) {
      assertThatThrownBy(command::run)
          .isInstanceOf(JournalException.class)
          .hasMessageContaining("is not to be trusted: " + why);
    }
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB", "POSTGRES"})
  void aTriggerOnTheJournalIsNamed(Kind kind) {
    on(kind);
    ladder.apply();
    switch (kind) {
      case SQLITE ->
          database.execute(
              "CREATE TRIGGER sneak AFTER INSERT ON ladder_journal BEGIN SELECT 1; END");
      case MARIADB ->
          database.execute("CREATE TRIGGER sneak AFTER INSERT ON ladder_journal FOR EACH ROW DO 1");
      default ->
          database.execute(
              "CREATE FUNCTION sneak() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RETURN NEW; END $$",
              "CREATE TRIGGER sneak BEFORE INSERT ON ladder_journal FOR EACH ROW"
                  + " EXECUTE FUNCTION sneak()");
    }
    refused("the trigger sneak is on it");
  }

  @ParameterizedTest
  @EnumSource
  void aColumnMoreIsNamed(Kind kind) {
    on(kind);
    ladder.apply();
    String journal = database.engine().quoting().name("ladder_journal");
    database.execute("ALTER TABLE " + journal + " ADD COLUMN sneak integer DEFAULT 1");
    refused("it has a column sneak that is not the tool's");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "CREATE RULE sneak AS ON INSERT TO ladder_journal DO ALSO SELECT 1|a rule is on it",
        "ALTER TABLE ladder_journal ENABLE ROW LEVEL SECURITY|policies hide rows of it"
      })
  void rulesAndPoliciesAreNamed(String statement, String why) {
    on(Kind.POSTGRES);
    ladder.apply();
    database.execute(statement);
    refused(why);
  }

  @ParameterizedTest
  @ValueSource(strings = {"ladder_journal", "ladder_snapshot"})
  void aTableOfSomebodyElseIsRefusedUnlessTheyAreNamed(String table) {
    on(Kind.POSTGRES);
    ladder.apply();
    String other = "picker_" + System.nanoTime();
    database.execute("CREATE ROLE " + other, "ALTER TABLE " + table + " OWNER TO " + other);
    ladder.rung("0002-more", "CREATE TABLE more (id integer);", "DROP TABLE more;");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(JournalException.class)
        .hasMessageContaining("it belongs to " + other);
    ladder.file("ladder.yaml", ladder.text("ladder.yaml") + "journal: { owner: " + other + " }\n");
    assertThat(ladder.apply().done()).hasSize(1);
    database.execute("DROP OWNED BY " + other + " CASCADE", "DROP ROLE " + other);
  }
}
