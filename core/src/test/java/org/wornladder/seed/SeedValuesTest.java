package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.CheckReport.Finding;
import org.wornladder.ProjectException;
import org.wornladder.SeedOptions;
import org.wornladder.TestLadder;
import org.wornladder.project.Problem;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Values that no column can take are refused before anything is written, all of them at once. */
class SeedValuesTest {
  private static final Optional<String> DEV = Optional.of("dev");

  @TempDir Path root;
  private TestLadder project;

  private void on(Kind kind, String file) {
    TestDatabase database = TestDatabase.make(kind, root);
    project =
        TestLadder.on(database, root)
            .rung(
                "0001-bins",
                "CREATE TABLE bin (id integer NOT NULL PRIMARY KEY, weight decimal(8,2), full_up"
                    + " boolean, packed date, note varchar(20));",
                "DROP TABLE bin;");
    project.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + database.url()
            + "' }\nseeds:\n  - table: bin\n    rows: seeds/"
            + file
            + "\n");
    project.apply();
  }

  private List<String> refused() {
    try {
      project.open().seed(DEV, SeedOptions.ALL);
      return List.of();
    } catch (ProjectException e) {
      return e.problems().stream().map(Problem::message).toList();
    }
  }

  @ParameterizedTest
  @EnumSource(Kind.class)
  void allWrongValuesOfAFileAreSaidTogether(Kind kind) {
    on(kind, "bin.csv");
    project.file(
        "seeds/bin.csv",
        """
        id,weight,full_up,packed
        1,1.2345e1,true,2026-08-10
        2,NaN,yes,2026-02-30
        x,12345e-2,0,2026-08-11
        """);
    assertThat(refused())
        .containsExactly(
            "column weight: the column keeps 2 digits behind the point, and here are more:"
                + " '1.2345e1'",
            "column weight: this is not a number: 'NaN'",
            "column full_up: this is not a truth value: write true or false: 'yes'",
            "column packed: this is not a date such as 2026-08-31: '2026-02-30'",
            "column id: this is not a whole number: 'x'");
    assertThat(project.open().checkAgainst(DEV, Optional.empty()).findings())
        .extracting(Finding::what)
        .containsExactlyElementsOf(refused());
  }

  /** A column's type for the engine, values that fit, and values that do not. */
  private record Fit(String type, List<String> good, List<String> bad) {}

  private static List<Fit> fits(Kind kind) {
    List<Fit> fits = new ArrayList<>();
    fits.add(new Fit("smallint", List.of("32767", "-32768"), List.of("32768", "-32769", "1.0")));
    fits.add(new Fit("integer", List.of("2147483647", "+7"), List.of("2147483648", "1e3")));
    fits.add(
        new Fit(
            "bigint",
            List.of("9223372036854775807"),
            List.of("9223372036854775808", "-9223372036854775809")));
    fits.add(
        new Fit(
            "decimal(5,2)",
            List.of("999.99", "-0.5", "1e2", "00012.50"),
            List.of("1000", "1e400", "-1000.1", "0.001")));
    fits.add(new Fit("varchar(3)", List.of("abc", "äöü"), List.of("abcd", "äöüß")));
    fits.add(new Fit("date", List.of("2026-02-28"), List.of("99", "2026-02-29")));
    fits.add(new Fit("timestamp", List.of("2026-02-28 06:30:00"), List.of("99", "2026-13-01")));
    switch (kind) {
      case POSTGRES -> {
        fits.add(new Fit("grade_code", List.of("A"), List.of("C", "")));
        fits.add(new Fit("jsonb", List.of("[1, null]", "7"), List.of("{", "[1] 2", "")));
      }
      case MARIADB -> {
        fits.add(new Fit("enum('A','it''s')", List.of("A", "it's"), List.of("C", "1")));
        fits.add(new Fit("smallint unsigned", List.of("65535"), List.of("-1", "65536")));
      }
      case H2 -> {
        fits.add(new Fit("enum('A','it''s')", List.of("A", "it's"), List.of("C", "1")));
        fits.add(new Fit("json", List.of("[1]"), List.of("{", "[1] 2")));
      }
      case SQLITE -> {}
    }
    return fits;
  }

  /** All are found before the database sees one, whatever it would say of the first alone. */
  @ParameterizedTest
  @EnumSource(value = Kind.class, names = "SQLITE", mode = EnumSource.Mode.EXCLUDE)
  void whatAColumnsTypeDoesNotTakeIsSaidTogether(Kind kind) {
    TestDatabase database = TestDatabase.make(kind, root);
    if (kind == Kind.POSTGRES) {
      database.execute("CREATE TYPE grade_code AS ENUM ('A', 'B')");
    }
    StringBuilder columns = new StringBuilder();
    StringBuilder good = new StringBuilder();
    StringBuilder bad = new StringBuilder();
    List<String> expected = new ArrayList<>();
    int column = 0;
    int row = 0;
    for (Fit fit : fits(kind)) {
      column++;
      columns.append(", c").append(column).append(' ').append(fit.type()).append(" NULL");
      for (String value : fit.good()) {
        row++;
        good.append("{\"id\":%d,\"c%d\":%s},%n".formatted(row, column, quoted(value)));
      }
      for (String value : fit.bad()) {
        row++;
        bad.append("{\"id\":%d,\"c%d\":%s},%n".formatted(row, column, quoted(value)));
        expected.add("column c" + column + ": '" + value + "'");
      }
    }
    project = TestLadder.on(database, root);
    project.rung(
        "0001-bins",
        "CREATE TABLE bin (id integer PRIMARY KEY" + columns + ");",
        "DROP TABLE bin;");
    project.file(
        "ladder.yaml",
        project.text("ladder.yaml") + "seeds:\n  - table: bin\n    rows: seeds/bin.json\n");
    project.file("seeds/bin.json", "[" + bad.toString().stripTrailing().replaceFirst(",$", "]"));
    project.apply();
    List<String> found = refused();
    assertThat(found.stream().map(text -> text.replaceFirst(": .*: '", ": '")))
        .containsExactlyElementsOf(expected);
    assertThat(project.open().checkAgainst(DEV, Optional.empty()).findings())
        .extracting(Finding::what)
        .containsExactlyElementsOf(found);
    project.file("seeds/bin.json", "[" + good.toString().stripTrailing().replaceFirst(",$", "]"));
    assertThat(refused()).isEmpty();
    assertThat(database.query("SELECT count(*) FROM bin"))
        .containsExactly(Integer.toString(row - expected.size()));
  }

  private static String quoted(String value) {
    return "\"" + value.replace("\"", "\\\"") + "\"";
  }

  @ParameterizedTest
  @EnumSource(Kind.class)
  void jsonIsOneArrayInUtf8(Kind kind) throws IOException {
    on(kind, "bin.json");
    project.file("seeds/bin.json", "[{\"id\": 1, \"note\": \"\\ud800\"}]");
    assertThat(refused()).singleElement().asString().contains("half a character");
    project.file("seeds/bin.json", "[{\"id\": 1}] {\"id\": 2}");
    assertThat(refused()).containsExactly("something stands behind the array");
    Files.write(root.resolve("seeds/bin.json"), "[{\"id\": 1}]".getBytes(StandardCharsets.UTF_16));
    assertThat(refused()).containsExactly("this is not UTF-8");
    project.file("seeds/bin.json", "[{\"id\": 1, \"weight\": 12345e-3}]");
    assertThatThrownBy(() -> project.open().seed(DEV, SeedOptions.ALL))
        .hasMessageContaining("here are more");
    project.file("seeds/bin.json", "[{\"id\": 1, \"weight\": 1234e-2}]");
    assertThat(refused()).isEmpty();
  }
}
