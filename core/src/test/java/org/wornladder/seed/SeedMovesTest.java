package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Ladder;
import org.wornladder.ProjectException;
import org.wornladder.SeedOptions;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Values that move from one row to another, and references that follow what rows will be. */
class SeedMovesTest {
  private static final Optional<String> DEV = Optional.of("dev");

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder project;

  private void project(Kind kind, String tables, String seeds) {
    database = TestDatabase.make(kind, root);
    project = TestLadder.on(database, root).rung("0001-tables", tables, "SELECT 1;");
    project.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + database.url()
            + "' }\nseeds:\n"
            + seeds);
    project.apply();
  }

  private String seed() {
    try (Ladder ladder = project.open()) {
      return ladder.seed(DEV, SeedOptions.ALL).results().stream()
          .map(result -> result.counts().text())
          .toList()
          .toString();
    }
  }

  private void bins(String rows) {
    project.file("seeds/bin.csv", "id,code,place\n" + rows);
  }

  @ParameterizedTest
  @EnumSource(Kind.class)
  void uniqueValuesChangePlaces(Kind kind) {
    project(
        kind,
        "CREATE TABLE bin (id integer PRIMARY KEY, code varchar(20) NOT NULL UNIQUE,"
            + " place integer NOT NULL UNIQUE);",
        "  - table: bin\n");
    bins("1,A,10\n2,B,20\n3,C,30\n");
    assertThat(seed()).isEqualTo("[3 added]");
    // Two change places, and all move on by one.
    bins("1,B,20\n2,A,30\n3,C,40\n");
    assertThat(seed()).isEqualTo("[3 updated]");
    assertRows("1 B 20", "2 A 30", "3 C 40");
    // A new row takes what an old one gives up.
    bins("4,B,20\n1,D,50\n2,C,40\n3,A,30\n");
    assertThat(seed()).isEqualTo("[1 added, 3 updated]");
    assertRows("1 D 50", "2 C 40", "3 A 30", "4 B 20");
    assertThat(seed()).isEqualTo("[4 unchanged]");
  }

  @ParameterizedTest
  @EnumSource(Kind.class)
  void aValueThatIsGivenUpForNullIsFree(Kind kind) {
    project(
        kind,
        "CREATE TABLE bin (id integer PRIMARY KEY, code varchar(20) UNIQUE, place integer);",
        "  - table: bin\n");
    bins("1,A,10\n2,B,20\n");
    seed();
    bins("1,,10\n2,B,20\n3,A,30\n");
    assertThat(seed()).isEqualTo("[1 added, 1 updated, 1 unchanged]");
  }

  private void assertRows(String... rows) {
    assertThat(database.query("SELECT concat(id, ' ', code, ' ', place) FROM bin ORDER BY id"))
        .containsExactly(rows);
  }

  @ParameterizedTest
  @EnumSource(Kind.class)
  void aValueThatAnotherRowKeepsIsRefusedBeforeAnythingIsWritten(Kind kind) {
    project(
        kind,
        "CREATE TABLE bin (id integer PRIMARY KEY, code varchar(20) UNIQUE, place integer);",
        "  - table: bin\n    extra: keep\n");
    bins("1,A,10\n2,B,20\n");
    seed();
    database.execute("INSERT INTO bin VALUES (9, 'Z', 90)");
    bins("1,X,10\n2,Z,20\n");
    for (SeedOptions options :
        new SeedOptions[] {new SeedOptions(List.of(), true, 0), SeedOptions.ALL}) {
      assertThatThrownBy(() -> project.open().seed(DEV, options))
          .isInstanceOf(ProjectException.class)
          .hasMessageMatching("(?i)\\(code\\) must be unique, and another row of bin has this.*");
    }
    bins("1,X,10\n2,X,20\n");
    assertThatThrownBy(this::seed)
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("first at seeds/bin.csv:2");
    assertRows("1 A 10", "2 B 20", "9 Z 90");
  }

  @ParameterizedTest
  @EnumSource(Kind.class)
  void aTableThatJoinsOthersIsKeyedByTheirMeaning(Kind kind) {
    project(
        kind,
        "CREATE TABLE role (id "
            + kind.identity()
            + ", name varchar(20) NOT NULL UNIQUE);\n"
            + "CREATE TABLE role_right (role_id integer NOT NULL REFERENCES role (id),"
            + " act varchar(20) NOT NULL, note varchar(20), PRIMARY KEY (role_id, act)"
            + ");",
        "  - table: role\n    key: [name]\n  - table: role_right\n");
    project.file("seeds/role.csv", "name\npicker\nkeeper\n");
    project.file("seeds/role_right.csv", "role.name,act,note\npicker,see,a\nkeeper,see,b\n");
    assertThat(seed()).isEqualTo("[2 added, 2 added]");
    assertThat(seed()).isEqualTo("[2 unchanged, 2 unchanged]");
    project.file(
        "seeds/role_right.csv", "role.name,act,note\npicker,see,c\nkeeper,see,b\nkeeper,move,d\n");
    assertThat(seed()).isEqualTo("[2 unchanged, 1 added, 1 updated, 1 unchanged]");
    project.file("seeds/role.csv", "name\npicker\nkeeper\nguest\n");
    project.file(
        "seeds/role_right.csv",
        "role.name,act,note\npicker,see,c\nkeeper,see,b\nkeeper,move,d\nguest,see,e\n");
    assertThat(seed()).isEqualTo("[1 added, 2 unchanged, 1 added, 3 unchanged]");
  }

  @ParameterizedTest
  @EnumSource(Kind.class)
  void aReferenceByMeaningFollowsWhatTheOtherSeedWillSay(Kind kind) {
    project(
        kind,
        "CREATE TABLE role (id integer PRIMARY KEY, name varchar(20) NOT NULL UNIQUE);\n"
            + "CREATE TABLE person (id integer PRIMARY KEY, role_id integer, FOREIGN KEY (role_id)"
            + " REFERENCES role (id));",
        "  - table: role\n  - table: person\n");
    project.file("seeds/role.csv", "id,name\n1,picker\n2,keeper\n");
    project.file("seeds/person.csv", "id,role.name\n1,picker\n2,keeper\n");
    seed();
    project.file("seeds/role.csv", "id,name\n1,keeper\n2,picker\n");
    seed();
    assertThat(database.query("SELECT role_id FROM person ORDER BY id")).containsExactly("2", "1");
    project.file("seeds/role.csv", "id,name\n1,guest\n2,picker\n");
    assertThatThrownBy(this::seed)
        .isInstanceOf(ProjectException.class)
        .hasMessageMatching("(?i).*no row of role has this name");
  }

  @ParameterizedTest
  @EnumSource(Kind.class)
  void theDatabasesNumbersGoOnBehindTheFirstOne(Kind kind) {
    project(
        kind,
        "CREATE TABLE bin (id " + kind.identity() + ", code varchar(20), place integer);",
        "  - table: bin\n");
    bins("1,A,10\n");
    seed();
    database.execute("INSERT INTO bin (code, place) VALUES ('B', 20)");
    assertRows("1 A 10", "2 B 20");
  }
}
