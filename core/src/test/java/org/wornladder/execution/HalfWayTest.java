package org.wornladder.execution;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** The way down of a rung that came up half way: what is there goes, what is not is left out. */
class HalfWayTest {
  private static final String WRONG = "INSERT INTO nowhere VALUES (1);";

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Enum<?> kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    ladder.rung("0001-bins", "CREATE TABLE bin (id integer);", "DROP TABLE bin;");
    ladder.apply();
  }

  private void stuck(String up, String down) {
    ladder.file(
        "rungs/0002-more.sql",
        "--| run: outside-transaction\n--| up\n" + up + "\n--| down\n" + down + "\n");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
  }

  /** The schema in which a table is without one. */
  private static String schema(Enum<?> kind, TestDatabase database) {
    return switch (kind.name()) {
      case "SQLITE" -> "main";
      case "MARIADB" -> database.query("SELECT database()").get(0);
      case "DERBY" -> "app";
      default -> "public";
    };
  }

  private List<String> tables() {
    return ladder.open().show(java.util.Optional.of("dev")).schema().tables().stream()
        .map(table -> table.name().toLowerCase(java.util.Locale.ROOT))
        .toList();
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void aColumnIsOneThing(Enum<?> kind) {
    on(kind);
    stuck(
        "ALTER TABLE bin ADD COLUMN code varchar(9);\nCREATE INDEX bin_code ON bin (code);\n"
            + WRONG
            + "\nALTER TABLE bin ADD COLUMN weight integer;",
        "ALTER TABLE bin DROP COLUMN weight;\nDROP INDEX bin_code"
            + (kind == Kind.MARIADB ? " ON bin" : "")
            + ";\nALTER TABLE bin DROP COLUMN code;");
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(database.query("SELECT * FROM bin")).isEmpty();
    assertThat(ladder.open().show(java.util.Optional.of("dev")).schema().table("bin"))
        .hasValueSatisfying(table -> assertThat(table.columns()).hasSize(1));
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(tables()).isEmpty();
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void aNameWithItsSchemaIsTheSameTable(Enum<?> kind) {
    on(kind);
    String schema = schema(kind, database);
    stuck("CREATE TABLE crate (id integer);\n" + WRONG, "DROP TABLE " + schema + ".crate;");
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(tables()).containsExactly("bin");
  }

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "H2", "MARIADB"})
  void aTableOfAnotherSchemaIsLookedForThere(Kind kind) {
    on(kind);
    String store = kind == Kind.MARIADB ? schema(kind, database) + "_store" : "store";
    stuck(
        "CREATE SCHEMA " + store + ";\nCREATE TABLE " + store + ".crate (id integer);\n" + WRONG,
        "DROP TABLE " + store + ".crate;");
    ladder.rollback(new RollbackOptions.Last(1));
    assertThatThrownBy(() -> database.query("SELECT * FROM " + store + ".crate"))
        .isInstanceOf(IllegalStateException.class);
    database.execute("DROP SCHEMA " + store);
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void whatCannotBeLeftOutIsNamedByItsLine(Enum<?> kind) {
    on(kind);
    stuck(
        "CREATE TABLE crate (id integer);\n" + WRONG,
        "DROP TABLE crate;\nUPDATE bin SET id = 2;\nDROP TABLE bin;");
    RefusedException refused =
        catchThrowableOfType(
            RefusedException.class, () -> ladder.rollback(new RollbackOptions.Last(1)));
    assertThat(refused.refusals()).hasSize(1);
    assertThat(refused.refusals().get(0).where()).isEqualTo("rungs/0002-more.sql:7:1");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void withoutItsFileTheJournalsWayDownTakesIt(Enum<?> kind) {
    on(kind);
    stuck("CREATE TABLE crate (id integer);\n" + WRONG, "DROP TABLE crate;");
    ladder.delete("rungs/0002-more.sql");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("its file is gone");
    ladder.rollback(new RollbackOptions.Absent());
    assertThat(tables()).containsExactly("bin");
    assertThat(ladder.apply().done()).isEmpty();
  }
}
