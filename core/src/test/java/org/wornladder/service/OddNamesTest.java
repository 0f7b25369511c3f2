package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.AdoptOptions;
import org.wornladder.Against;
import org.wornladder.MendScript;
import org.wornladder.RunListener;
import org.wornladder.TestLadder;
import org.wornladder.change.Difference;
import org.wornladder.schema.Table;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/**
 * Names that only quotes can hold are read, written, compared and brought back like any other, and
 * so are views that do not compile any more.
 */
class OddNamesTest {
  private static final List<String> NAMES =
      List.of(
          "Bin \"of\" rows",
          "it's `quoted`",
          "a.b.c",
          ".",
          " in front",
          "select",
          "MiXed Case",
          "back\\slash",
          "100% of $1 {fn ?} :x",
          "--| up",
          "/* no comment */",
          "näme",
          "x".repeat(63));

  private static final String EMOJI = "🍎🍐";

  @TempDir Path root;

  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) throws Exception {
    database = TestDatabase.make(kind, Files.createDirectories(root.resolve("data")));
    ladder = TestLadder.on(database, root.resolve("project"));
  }

  private String q(String name) {
    return database.engine().quoting().name(name);
  }

  /** MariaDB has no names beyond the basic plane, and strips what it selects of blanks in front. */
  private static List<String> names(Kind kind) {
    return kind == Kind.MARIADB
        ? NAMES.stream().filter(name -> !name.startsWith(" ")).toList()
        : Stream.concat(NAMES.stream(), Stream.of(EMOJI)).toList();
  }

  private void makeAll(Kind kind) {
    String before = "";
    List<String> names = names(kind);
    for (int i = 0; i < names.size(); i++) {
      String name = q(names.get(i));
      String reference =
          before.isEmpty()
              ? ""
              : ", CONSTRAINT fk_" + i + " FOREIGN KEY (" + name + ") REFERENCES " + before;
      database.execute(
          "CREATE TABLE "
              + name
              + " ("
              + name
              + " int PRIMARY KEY, plain varchar(9)"
              + reference
              + ")",
          "CREATE INDEX ix_" + i + " ON " + name + " (plain, " + name + ")");
      database.execute(
          "CREATE VIEW v_" + i + " AS SELECT " + name + " FROM " + name + " WHERE plain <> ''");
      before = name + " (" + name + ")";
    }
  }

  private void adopt() {
    AdoptOptions all = new AdoptOptions(List.of(), List.of(), List.of());
    assertThat(
            ladder
                .open()
                .adopt(Optional.of("dev"), all, TestLadder.YES, RunListener.SILENT)
                .leftOut())
        .isEmpty();
  }

  private List<Difference> drift(Against against) {
    return ladder.open().drift(Optional.of("dev"), against, false).structure();
  }

  @ParameterizedTest
  @EnumSource
  void areReadAndBuiltAnew(Kind kind) throws Exception {
    on(kind);
    makeAll(kind);
    assertThat(ladder.open().show(Optional.of("dev")).schema().tables())
        .extracting(Table::name)
        .containsAll(names(kind));
    for (String name : names(kind)) {
      assertThat(
              ladder.open().showTable(Optional.of("dev"), name, 3).table().columns().get(0).name())
          .isEqualTo(name);
    }
    adopt();
    for (Against against : Against.values()) {
      assertThat(drift(against)).as(against.label()).isEmpty();
    }
  }

  @ParameterizedTest
  @EnumSource
  void areBroughtBack(Kind kind) throws Exception {
    on(kind);
    makeAll(kind);
    adopt();
    List<String> names = names(kind);
    for (String name : names) {
      database.execute("ALTER TABLE " + q(name) + " ADD " + q(name.substring(1) + "+") + " int");
    }
    database.execute("CREATE VIEW " + q("view of " + names.get(0)) + " AS SELECT 1 AS " + q("'"));
    assertThat(drift(Against.EXPECTED)).hasSize(names.size() + 1);
    MendScript mending = ladder.open().mendScript(Optional.of("dev"), Against.EXPECTED, false);
    assertThat(mending.leftOut()).isEmpty();
    mending.statements().forEach(database::execute);
    assertThat(drift(Against.EXPECTED)).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void areMadeOfficial(Kind kind) throws Exception {
    on(kind);
    makeAll(kind);
    adopt();
    List<String> made = new ArrayList<>();
    for (String name : names(kind)) {
      String other = name.length() > 60 ? "y".repeat(63) : name + "2";
      database.execute("CREATE TABLE " + q(other) + " (" + q(name) + " int PRIMARY KEY)");
      made.add(other);
    }
    ladder.open().driftAsRung(Optional.of("dev"), "odd tables", TestLadder.YES, RunListener.SILENT);
    assertThat(drift(Against.EXPECTED)).isEmpty();
    assertThat(drift(Against.RUNGS)).isEmpty();
    assertThat(ladder.open().show(Optional.of("dev")).schema().tables())
        .extracting(Table::name)
        .containsAll(made);
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aViewThatNoLongerCompilesIsStillReadAndTold(Kind kind) throws Exception {
    on(kind);
    database.execute(
        "CREATE TABLE bin (id int PRIMARY KEY, code varchar(9))",
        "CREATE TABLE crate (id int PRIMARY KEY)",
        "CREATE VIEW codes AS SELECT code FROM bin",
        "CREATE VIEW both_of AS SELECT c.id FROM codes, crate c");
    adopt();
    database.execute("DROP TABLE bin");
    assertThat(
            ladder.open().show(Optional.of("dev")).schema().names(org.wornladder.schema.Kind.VIEW))
        .containsExactlyInAnyOrder("codes", "both_of");
    assertThat(drift(Against.EXPECTED))
        .extracting(one -> one.change().name().toLowerCase(Locale.ROOT) + " " + one.fullName())
        .containsExactly("removed bin");
    MendScript mending = ladder.open().mendScript(Optional.of("dev"), Against.EXPECTED, false);
    mending.statements().forEach(database::execute);
    assertThat(drift(Against.EXPECTED)).isEmpty();
    assertThat(database.query("SELECT count(*) FROM both_of")).containsExactly("0");
  }
}
