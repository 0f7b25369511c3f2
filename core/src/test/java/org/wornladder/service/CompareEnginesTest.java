package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.wornladder.ApplyOptions;
import org.wornladder.ComparisonResult;
import org.wornladder.RunListener;
import org.wornladder.TestLadder;
import org.wornladder.change.Difference;
import org.wornladder.server.TestDatabase;

/** What the same files made on two engines, held against each other. */
class CompareEnginesTest {
  @TempDir Path root;

  private TestLadder ladder(TestDatabase other) {
    return new TestLadder(root)
        .file(
            "ladder.yaml",
            "name: hollowfield\nenvironments:\n  dev: { url: 'jdbc:sqlite:near.db' }\n  other: { url: '"
                + other.url()
                + "' }\n");
  }

  private static void apply(TestLadder ladder, String environment) {
    ladder
        .open()
        .apply(Optional.of(environment), ApplyOptions.ALL, TestLadder.YES, RunListener.SILENT);
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void theSameFilesMakeTheSameStructureOnTwoEngines(Enum<?> kind) {
    TestLadder ladder =
        ladder(TestDatabase.make(kind, root))
            .rung(
                "0001-orchard",
                """
                CREATE TABLE orchard (id integer PRIMARY KEY, name varchar(40) NOT NULL, note varchar(9));
                CREATE TABLE block (
                  orchard integer NOT NULL, label varchar(20) NOT NULL, hectares decimal(6,2),
                  PRIMARY KEY (orchard, label), FOREIGN KEY (orchard) REFERENCES orchard (id));
                CREATE TABLE season (code integer NOT NULL PRIMARY KEY, first_day date);
                CREATE VIEW labels AS SELECT label FROM block;
                """,
                "DROP VIEW labels; DROP TABLE season; DROP TABLE block; DROP TABLE orchard;");
    apply(ladder, "dev");
    apply(ladder, "other");
    ComparisonResult same = ladder.open().compare("dev", "env:other", false);
    assertThat(same.differences()).isEmpty();
    assertThat(same.left()).isEqualTo("env:dev");
    ladder.rung(
        "0002-more", "ALTER TABLE season ADD last_day date;", "ALTER TABLE season DROP last_day;");
    apply(ladder, "dev");
    assertThat(ladder.open().compare("dev", "other", false).differences())
        .extracting(Difference::description)
        .containsExactly("column season.last_day");
  }
}
