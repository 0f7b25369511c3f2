package org.wornladder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.wornladder.change.Difference;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.DriverKind;
import org.wornladder.server.TestDatabase.Kind;

/** The value of a variable that a rung has made part of an object's definition. */
class SecretDefinitionTest {
  private static final Optional<String> DEV = Optional.of("dev");
  private static final String SECRET = "Heron's-7-gate";

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder project;

  private void apply(Enum<?> kind) {
    database = TestDatabase.make(kind, root);
    project =
        TestLadder.on(database, root)
            .rung(
                "0001-bins",
                "CREATE TABLE bin (id integer PRIMARY KEY, door varchar(40) DEFAULT @{gate:text});\n"
                    + "CREATE VIEW doors AS SELECT id, @{gate:text} AS door FROM bin;",
                "DROP VIEW doors;\nDROP TABLE bin;")
            .settings(database, ", values: { gate: '${GATE}' }");
    open(SECRET).apply(DEV, ApplyOptions.ALL, TestLadder.YES, RunListener.SILENT);
  }

  private Ladder open(String gate) {
    return project.builder().variables(Map.of("GATE", gate)).build();
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void isNowhereInClear(Enum<?> kind) throws IOException {
    apply(kind);
    for (String packed : snapshots()) {
      assertThat(unpacked(packed)).contains("@{secret:").doesNotContain("7-gate");
    }
    Ladder ladder = open(SECRET);
    assertThat(ladder.ddl(DEV, Optional.empty()).script().statements().toString())
        .contains("***")
        .doesNotContain("7-gate");
    assertThat(ladder.show(DEV).schema().toString()).doesNotContain("7-gate");
    assertThat(ladder.showTable(DEV, "bin", 0).table().toString()).doesNotContain("7-gate");
  }

  @ParameterizedTest
  @EnumSource
  void ofAColumnIsComparedAsADriverTellsIt(DriverKind kind) {
    apply(kind);
    assertThat(open(SECRET).drift(DEV, Against.EXPECTED, false).isClean()).isTrue();
    assertThat(open("another gate").drift(DEV, Against.EXPECTED, false).structure()).isNotEmpty();
    database.execute("ALTER TABLE bin ADD COLUMN gate varchar(40) DEFAULT 'Heron''s-7-gate'");
    assertThat(open(SECRET).drift(DEV, Against.EXPECTED, false).structure().toString())
        .contains("***")
        .doesNotContain("7-gate");
  }

  @ParameterizedTest
  @EnumSource
  void isComparedAllTheSame(Kind kind) {
    apply(kind);
    assertThat(open(SECRET).drift(DEV, Against.EXPECTED, false).isClean()).isTrue();
    assertThat(open("another gate").drift(DEV, Against.EXPECTED, false).structure()).isNotEmpty();
    database.execute("DROP VIEW doors");
    List<Difference> found = open(SECRET).drift(DEV, Against.EXPECTED, false).structure();
    assertThat(found)
        .extracting(difference -> difference.description().toLowerCase(Locale.ROOT))
        .containsExactly("view doors");
    assertThat(found.toString()).contains("***").doesNotContain("7-gate");
    assertThat(open(SECRET).compare("env:dev", "expected:dev", false).differences().toString())
        .contains("***")
        .doesNotContain("7-gate");
    assertThat(open(SECRET).mendScript(DEV, Against.EXPECTED, false).statements().toString())
        .contains("7-gate");
    assertThatThrownBy(() -> open("another gate").mendScript(DEV, Against.EXPECTED, false))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("not known any more");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void isPointedOutBeforeItHappens(Enum<?> kind) {
    apply(kind);
    project.rung(
        "0002-more",
        "INSERT INTO bin VALUES (1, @{gate:text});\nCREATE VIEW more AS SELECT @{gate:text} AS d;",
        "DROP VIEW more;");
    assertThat(open(SECRET).preview(DEV, ApplyOptions.ALL).plan().notes().toString())
        .contains("rungs/0002-more.sql:3 puts the value of a variable")
        .doesNotContain("0002-more.sql:2 ");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void isNotWrittenToFiles(Enum<?> kind) {
    apply(kind);
    database.execute(
        kind instanceof Kind
            ? "CREATE VIEW gates AS SELECT 'Heron''s-7-gate' AS door"
            : "ALTER TABLE bin ADD COLUMN gate varchar(40) DEFAULT 'Heron''s-7-gate'");
    assertThatThrownBy(
            () -> open(SECRET).driftAsRung(DEV, "found", TestLadder.YES, RunListener.SILENT))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("would stand in the file in clear");
  }

  private List<String> snapshots() {
    String table = database.engine().quoting().name("ladder_snapshot");
    return database
        .query(
            "SELECT %s FROM %s WHERE %s = 'expected'"
                .formatted(
                    database.journalColumn("content"), table, database.journalColumn("moment")))
        .stream()
        .filter(content -> !content.isEmpty())
        .toList();
  }

  private static String unpacked(String packed) throws IOException {
    byte[] bytes = Base64.getDecoder().decode(packed);
    try (GZIPInputStream in = new GZIPInputStream(new ByteArrayInputStream(bytes))) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }
}
