package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.RowChange;
import org.wornladder.SeedApproval;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.SeedRunResult;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.DriverKind;
import org.wornladder.server.TestDatabase.Kind;

/** What files say shall stand in tables, on every engine. */
class SeedTest {
  private static final SeedOptions LOOK = new SeedOptions(List.of(), true, 20);

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Enum<?> kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
  }

  private void seeds(String yaml) {
    ladder.settings(database, "");
    ladder.file("ladder.yaml", ladder.text("ladder.yaml") + "seeds:\n" + yaml.indent(2));
  }

  private SeedRunResult seed(SeedOptions options) {
    return ladder
        .open()
        .seed(
            Optional.of("dev"), options, SeedApproval.given(Optional.empty()), SeedListener.SILENT);
  }

  private String counts(String table) {
    return counts(seed(SeedOptions.ALL), table);
  }

  private static String counts(SeedRunResult outcome, String table) {
    return outcome.results().stream()
        .filter(result -> result.label().equals(table))
        .findFirst()
        .orElseThrow()
        .counts()
        .text();
  }

  private void grades() {
    database.execute(
        "CREATE TABLE grade (code varchar(8) NOT NULL PRIMARY KEY, name varchar(40) NOT NULL,"
            + " price decimal(8,2), since date)");
    seeds("- table: grade");
    ladder.file("seeds/grade.csv", "code,name,price,since\nA,First,1.50,2026-01-01\nB,\"\",,\n");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void rowsAreAddedUpdatedAndLeftAlone(Enum<?> kind) {
    on(kind);
    grades();
    assertThat(counts(seed(LOOK), "grade")).isEqualTo("2 added");
    assertThat(database.query("SELECT code FROM grade")).isEmpty();
    assertThat(counts("grade")).isEqualTo("2 added");
    assertThat(database.query("SELECT name FROM grade ORDER BY code")).containsExactly("First", "");
    assertThat(database.query("SELECT price FROM grade WHERE code = 'B'")).containsExactly("NULL");
    assertThat(counts("grade")).isEqualTo("2 unchanged");
    assertThat(database.events()).as("nothing changed, no entry").containsExactly("seeded");
    database.execute("UPDATE grade SET name = 'first' WHERE code = 'A'");
    assertThat(counts("grade")).isEqualTo("1 updated, 1 unchanged");
    assertThat(database.query("SELECT name FROM grade WHERE code = 'A'")).containsExactly("First");
    assertThat(database.events()).containsExactly("seeded", "seeded");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void whatADryRunShowsIsBeforeAndAfter(Enum<?> kind) {
    on(kind);
    grades();
    seed(SeedOptions.ALL);
    seeds("- table: grade\n  extra: delete");
    database.execute(
        "UPDATE grade SET price = 1.25 WHERE code = 'A'",
        "INSERT INTO grade (code, name) VALUES ('Z', 'Windfall')");
    List<RowChange> changes = seed(LOOK).results().get(0).changes();
    assertThat(changes)
        .extracting(RowChange::kind, RowChange::line)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple(RowChange.Kind.UPDATED, 2L),
            org.assertj.core.groups.Tuple.tuple(RowChange.Kind.DELETED, 0L));
    assertThat(changes.get(0).fields()).hasSize(1);
    RowChange.Field price = changes.get(0).fields().get(0);
    assertThat(price.column()).isEqualToIgnoringCase("price");
    assertThat(price.before().orElseThrow()).isEqualTo("1.25");
    assertThat(price.after().orElseThrow()).startsWith("1.5");
    assertThat(changes.get(1).key()).isEqualToIgnoringCase("code=Z");
    assertThat(counts("grade")).isEqualTo("1 updated, 1 deleted, 1 unchanged");
    assertThat(database.query("SELECT code FROM grade ORDER BY code")).containsExactly("A", "B");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void existingRowsCanBeLeft(Enum<?> kind) {
    on(kind);
    grades();
    seeds("- table: grade\n  existing: leave");
    database.execute("INSERT INTO grade (code, name) VALUES ('A', 'ours')");
    assertThat(counts("grade")).isEqualTo("1 added, 1 unchanged");
    assertThat(database.query("SELECT name FROM grade ORDER BY code")).containsExactly("ours", "");
  }

  private void orchards(Enum<?> kind) {
    String id =
        switch (database.name()) {
          case "SQLITE" -> "integer PRIMARY KEY";
          case "MARIADB" -> "integer AUTO_INCREMENT PRIMARY KEY";
          // The metadata does not distinguish GENERATED ALWAYS, which needs OVERRIDING in an
          // INSERT.
          case "DERBY", "HSQLDB" -> TestDatabase.identity(kind);
          default -> "integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY";
        };
    database.execute(
        "CREATE TABLE variety (id " + id + ", name varchar(40) NOT NULL UNIQUE)",
        "CREATE TABLE picking (id "
            + id
            + ", variety_id integer NOT NULL, label varchar(40) NOT NULL UNIQUE,"
            + " FOREIGN KEY (variety_id) REFERENCES variety (id))");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void aReferenceIsGivenByItsMeaning(Enum<?> kind) {
    on(kind);
    orchards(kind);
    seeds("- table: picking\n  key: [label]\n- table: variety\n  key: [name]");
    ladder.file("seeds/variety.json", "[{\"name\": \"Mill Beauty\"}, {\"name\": \"Keeper\"}]");
    ladder.file(
        "seeds/picking.yaml",
        "- { variety.name: Keeper, label: first }\n- { variety_id.name: Keeper, label: second }\n");
    assertThatThrownBy(() -> seed(SeedOptions.ALL))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("both mean");
    ladder.file("seeds/picking.yaml", "- { variety.name: Keeper, label: first }\n");
    assertThat(counts(seed(LOOK), "picking")).startsWith("1 added");
    assertThat(counts("picking")).startsWith("1 added");
    assertThat(database.query("SELECT v.name FROM picking p JOIN variety v ON v.id = p.variety_id"))
        .containsExactly("Keeper");
    assertThat(counts("picking")).isEqualTo("1 unchanged");
    ladder.file("seeds/picking.yaml", "- { variety.name: Lost, label: first }\n");
    assertThatThrownBy(() -> seed(SeedOptions.ALL))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("no row of")
        .extracting(e -> ((ProjectException) e).where().orElse(""))
        .isEqualTo("seeds/picking.yaml:1:3");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void aReferenceToAnotherRowOfTheSameTableIsGivenByItsMeaning(Enum<?> kind) {
    on(kind);
    database.execute(
        "CREATE TABLE block (id "
            + TestDatabase.identity(kind)
            + ", name varchar(20) NOT NULL UNIQUE, parent_id integer,"
            + " FOREIGN KEY (parent_id) REFERENCES block (id))");
    seeds("- table: block\n  key: [name]");
    ladder.file("seeds/block.csv", "name,block.name\nchild,root\nroot,\ngrandchild,child\n");
    assertThat(counts("block")).startsWith("3 added");
    assertThat(
            database.query(
                "SELECT p.name FROM block b JOIN block p ON p.id = b.parent_id ORDER BY b.name"))
        .containsExactly("root", "child");
    assertThat(counts("block")).isEqualTo("3 unchanged");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void numbersGoOnPastThoseThatWereWritten(Enum<?> kind) {
    on(kind);
    orchards(kind);
    seeds("- table: variety");
    ladder.file("seeds/variety.csv", "id,name\n7,Mill Beauty\n41,Keeper\n");
    seed(SeedOptions.ALL);
    database.execute("INSERT INTO variety (name) VALUES ('Late Gold')");
    assertThat(database.query("SELECT id FROM variety WHERE name = 'Late Gold'"))
        .containsExactly("42");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void circlesAreClosedInTheEnd(Enum<?> kind) {
    on(kind);
    database.execute(
        "CREATE TABLE block (id integer PRIMARY KEY, parent_id integer, best_id integer)",
        "CREATE TABLE tree (id integer PRIMARY KEY, block_id integer NOT NULL,"
            + " FOREIGN KEY (block_id) REFERENCES block (id))");
    if (kind == Kind.SQLITE) {
      database.execute(
          "DROP TABLE tree",
          "DROP TABLE block",
          "CREATE TABLE block (id integer PRIMARY KEY, parent_id integer REFERENCES block (id),"
              + " best_id integer REFERENCES tree (id))",
          "CREATE TABLE tree (id integer PRIMARY KEY, block_id integer NOT NULL REFERENCES block"
              + " (id))");
    } else {
      database.execute(
          "ALTER TABLE block ADD FOREIGN KEY (parent_id) REFERENCES block (id)",
          "ALTER TABLE block ADD FOREIGN KEY (best_id) REFERENCES tree (id)");
    }
    seeds("- table: tree\n  extra: delete\n- table: block\n  extra: delete");
    ladder.file("seeds/block.csv", "id,parent_id,best_id\n1,2,10\n2,,11\n");
    ladder.file("seeds/tree.csv", "id,block_id\n10,1\n11,2\n");
    assertThat(counts("block")).startsWith("2 added");
    assertThat(database.query("SELECT best_id FROM block ORDER BY id")).containsExactly("10", "11");
    assertThat(counts("tree")).isEqualTo("2 unchanged");
    ladder.file("seeds/tree.csv", "id,block_id\n10,1\n");
    assertThatThrownBy(() -> seed(SeedOptions.ALL)).isInstanceOf(RefusedException.class);
    ladder.file("seeds/block.csv", "id,parent_id,best_id\n1,,10\n2,,\n");
    assertThat(counts("tree")).isEqualTo("1 deleted, 1 unchanged");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void rowsThatOthersPointToAreNotDeleted(Enum<?> kind) {
    on(kind);
    orchards(kind);
    seeds("- table: variety\n  extra: delete");
    ladder.file("seeds/variety.csv", "id,name\n1,Keeper\n2,Mill Beauty\n");
    seed(SeedOptions.ALL);
    database.execute("INSERT INTO picking (variety_id, label) VALUES (2, 'first')");
    ladder.file("seeds/variety.csv", "id,name\n1,Keeper\n");
    assertThatThrownBy(() -> seed(SeedOptions.ALL))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("1 row of ")
        .hasMessageContainingAll("points to rows of", "would be deleted: ");
    ladder.file("seeds/variety.csv", "id,name\n");
    assertThatThrownBy(() -> seed(SeedOptions.ALL))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("would empty");
    assertThat(database.query("SELECT count(*) FROM variety")).containsExactly("2");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void aRowThatTheDatabaseRefusesIsFoundAndNothingIsWritten(Enum<?> kind) {
    on(kind);
    database.execute(
        "CREATE TABLE grade (code varchar(8) NOT NULL PRIMARY KEY, low integer CHECK (low >= 0))");
    seeds("- table: grade");
    StringBuilder rows = new StringBuilder("code,low\n");
    for (int i = 1; i <= 300; i++) {
      rows.append('g').append(i).append(',').append(i == 217 ? -1 : i).append('\n');
    }
    ladder.file("seeds/grade.csv", rows.toString());
    assertThatThrownBy(() -> seed(SeedOptions.ALL))
        .isInstanceOfSatisfying(
            StatementFailedException.class,
            e -> assertThat(e.failure().place()).isEqualTo("seeds/grade.csv:218"));
    assertThat(database.query("SELECT count(*) FROM grade")).containsExactly("0");
    assertThat(database.engine().name()).isNotEmpty();
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void aRefusedRowIsFoundBehindRowsThatPointToWhatIsStillToCome(Enum<?> kind) {
    on(kind);
    orchards(kind);
    seeds("- table: picking\n  key: [label]\n- table: variety\n  key: [name]");
    ladder.file("seeds/variety.csv", "name\nKeeper\nMill Beauty\n");
    // Two labels that differ and are of one row's id: the database alone can tell.
    database.execute("CREATE UNIQUE INDEX one_a_variety ON picking (variety_id)");
    ladder.file(
        "seeds/picking.csv",
        "label,variety.name\nfirst,Keeper\nsecond,Mill Beauty\nthird,Keeper\n");
    // Derby forgets the rows of a temporary table with the transaction that is rolled back.
    String line = kind == DriverKind.DERBY ? "" : ":4";
    assertThatThrownBy(() -> seed(SeedOptions.ALL))
        .isInstanceOfSatisfying(
            StatementFailedException.class,
            e -> assertThat(e.failure().place()).isEqualTo("seeds/picking.csv" + line));
    assertThat(database.query("SELECT count(*) FROM variety")).containsExactly("0");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void aScriptRunsAgainWhenItsTextChanges(Enum<?> kind) {
    on(kind);
    grades();
    seeds("- table: grade\n- sql: seeds/season.sql");
    ladder.file("seeds/season.sql", "UPDATE grade SET price = 2 WHERE code = 'B';\n");
    seed(SeedOptions.ALL);
    assertThat(database.query("SELECT code FROM grade WHERE price = 2")).containsExactly("B");
    assertThat(seed(new SeedOptions(List.of("seeds/season.sql"), false, 0)).isQuiet()).isTrue();
    ladder.file(
        "seeds/season.sql", "UPDATE grade SET price = 3 WHERE code = 'B';\nDELETE FROM nowhere;\n");
    assertThatThrownBy(() -> seed(new SeedOptions(List.of("seeds/season.sql"), false, 0)))
        .isInstanceOfSatisfying(
            StatementFailedException.class,
            e -> assertThat(e.failure().place()).isEqualTo("seeds/season.sql:2:1"));
    assertThat(database.query("SELECT code FROM grade WHERE price = 2")).containsExactly("B");
  }
}
