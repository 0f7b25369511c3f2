package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.RehearsalReport;
import org.wornladder.RehearsalReport.OfRung;
import org.wornladder.RehearseOptions;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/**
 * Many changes on each server engine, good and bad ones: what a rehearsal finds of each is what the
 * file of changes says, which says what the engine's manual states.
 */
@Order(1)
class MeasuredChangesTest {
  private static final String ONE_WAY = "one-way";

  @TempDir Path root;

  /**
   * One line of the file.
   *
   * @param outcome what is lost, or what fails, or that it is one-way; empty for a proved change
   */
  private record Change(String table, String up, String down, String effects, String outcome) {
    static Change of(int number, String line) {
      String table = "t%02d".formatted(number);
      String[] parts = (line.replace("{t}", table) + " ").split("\\|", -1);
      return new Change(
          table,
          parts[0].strip(),
          parts[1].strip(),
          parts[2].strip(),
          parts.length > 3 ? parts[3].strip() : "");
    }

    /** Whether nothing can run behind it. */
    boolean ends() {
      return outcome.startsWith("after the way down") || outcome.contains(" fails");
    }

    String way(String statements) {
      return String.join(";\n", statements.split(";;")) + ";";
    }

    /** As the meter words them. */
    List<String> measured(Kind kind) {
      if (effects.isEmpty()) {
        return List.of();
      }
      if (kind == Kind.POSTGRES) {
        return List.of(effects.split("; "));
      }
      String name =
          Stream.of("`" + table + "`", table + "_free")
              .filter(up::contains)
              .findFirst()
              .orElse(table);
      return List.of("ALGORITHM=" + effects.replace(" ", ", LOCK=") + " on " + name);
    }
  }

  private static List<Change> changes(Kind kind) {
    String name = "/rehearsals/" + kind.name().toLowerCase() + ".txt";
    try (InputStream file = MeasuredChangesTest.class.getResourceAsStream(name)) {
      List<String> lines =
          new String(file.readAllBytes(), StandardCharsets.UTF_8)
              .lines()
              .filter(line -> !line.startsWith("#"))
              .toList();
      List<Change> changes = new ArrayList<>();
      lines.forEach(line -> changes.add(Change.of(changes.size() + 1, line)));
      return changes;
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  private static Stream<String> tables(Kind kind, Change change) {
    String table = change.table();
    return kind == Kind.POSTGRES
        ? Stream.of(
                "CREATE TABLE {t} (id integer PRIMARY KEY, name varchar(40) NOT NULL, n integer,"
                    + " amount numeric(9, 2), note text, at timestamp, ref integer)",
                "CREATE INDEX {t}_name ON {t} (name)",
                "INSERT INTO {t} (id, name, n) VALUES (1, 'one', 1), (2, 'two', 2)")
            .map(text -> text.replace("{t}", table))
        : Stream.of(
                "CREATE TABLE {t} (id integer PRIMARY KEY, code varchar(20) NOT NULL, name"
                    + " varchar(40), n integer, amount decimal(9, 2),"
                    + " note text, at datetime, kind enum('a', 'b'), bay integer, ref"
                    + " integer, CONSTRAINT {t}_fk FOREIGN KEY (bay) REFERENCES bay (id), CONSTRAINT {t}_positive CHECK (amount > 0), INDEX"
                    + " {t}_code (code)) CHARACTER SET utf8mb4",
                "CREATE TABLE {t}_free (id integer PRIMARY KEY)",
                "INSERT INTO {t} (id, code, n) VALUES (1, 'one', 1), (2, 'two', 2)")
            .map(text -> text.replace("{t}", table));
  }

  @ParameterizedTest
  @EnumSource(names = {"MARIADB", "POSTGRES"})
  void isFoundAsTheManualStatesIt(Kind kind) {
    List<Change> changes = changes(kind);
    assertThat(changes).hasSizeGreaterThan(80);
    SoftAssertions all = new SoftAssertions();
    List<Change> lasting = changes.stream().filter(change -> !change.ends()).toList();
    check(kind, "lasting", lasting, all);
    changes.stream()
        .filter(Change::ends)
        .forEach(change -> check(kind, change.table(), List.of(change), all));
    all.assertAll();
  }

  private void check(Kind kind, String folder, List<Change> changes, SoftAssertions all) {
    Path own = root.resolve(folder);
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder ladder = TestLadder.on(database, own);
    StringBuilder first = new StringBuilder("CREATE TABLE bay (id integer PRIMARY KEY);\n");
    changes.stream()
        .flatMap(change -> tables(kind, change))
        .forEach(text -> first.append(text).append(";\n"));
    ladder.rung("0001-tables", first.toString(), "SELECT 1;");
    ladder.apply();
    for (int i = 0; i < changes.size(); i++) {
      Change change = changes.get(i);
      String name = "%04d-%s".formatted(i + 2, change.table());
      if (change.down().isEmpty()) {
        ladder.file(
            "rungs/" + name + ".sql",
            "--| no way down: rows go\n--| up\n" + change.way(change.up()) + "\n");
      } else {
        ladder.rung(name, change.way(change.up()), change.way(change.down()));
      }
    }
    RehearsalReport report = ladder.open().rehearse(Optional.of("dev"), RehearseOptions.EXPECTED);
    all.assertThat(report.rungs()).as(folder).hasSize(changes.size());
    for (int i = 0; i < report.rungs().size(); i++) {
      check(kind, changes.get(i), report.rungs().get(i), all);
    }
  }

  private static void check(Kind kind, Change change, OfRung rung, SoftAssertions all) {
    if (!change.outcome().equals("the way up fails")) {
      all.assertThat(effects(kind, rung)).as(change.up()).isEqualTo(change.measured(kind));
    }
    if (change.ends()) {
      all.assertThat(rung.faults().toString()).as(change.up()).contains(change.outcome());
      return;
    }
    all.assertThat(rung.faults()).as(change.up()).isEmpty();
    boolean oneWay = change.outcome().equals(ONE_WAY);
    all.assertThat(rung.oneWay().isPresent()).as(change.up()).isEqualTo(oneWay);
    List<String> lost =
        oneWay || change.outcome().isEmpty() ? List.of() : List.of(change.outcome().split("; "));
    all.assertThat(rung.lost()).as(change.up()).isEqualTo(lost);
  }

  /**
   * The server's reasons for a copy are its own words, and not the manual's; its log is also that
   * of other tests.
   */
  private static List<String> effects(Kind kind, OfRung rung) {
    List<String> effects =
        rung.statements().isEmpty() ? List.of() : rung.statements().get(0).effects();
    return kind == Kind.POSTGRES
        ? effects.stream().filter(effect -> !effect.endsWith("to the log")).toList()
        : effects.stream().limit(1).toList();
  }
}
