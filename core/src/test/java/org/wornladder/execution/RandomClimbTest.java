package org.wornladder.execution;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.TreeSet;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.LadderException;
import org.wornladder.RollbackOptions;
import org.wornladder.Status;
import org.wornladder.TestLadder;
import org.wornladder.journal.History;

/**
 * Many small changes of mind: rungs written, applied, taken back, broken and mended, views changed.
 * Whatever happens, the database holds what the journal says, and the journal is whole.
 */
class RandomClimbTest {
  private static final int STEPS = 40;

  @TempDir Path root;
  private TestLadder ladder;
  private final TreeSet<Integer> written = new TreeSet<>();
  private final TreeSet<Integer> failing = new TreeSet<>();

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6})
  void theDatabaseHoldsWhatTheJournalSays(long seed) {
    Random random = new Random(seed);
    ladder = new TestLadder(root);
    int refused = 0;
    for (int i = 0; i < STEPS; i++) {
      try {
        step(random);
      } catch (LadderException e) {
        refused++;
        assertThat(e.advice().isEmpty()).as(e.what()).isFalse();
      }
      check();
    }
    mend();
    ladder.apply();
    check();
    assertThat(tables()).hasSize(written.size());
    assertThat(refused).isLessThan(STEPS);
  }

  private void step(Random random) {
    switch (random.nextInt(7)) {
      case 0, 1 -> write(random.nextInt(4) == 0);
      case 2, 3 -> ladder.apply();
      case 4 -> ladder.rollback(new RollbackOptions.Last(1 + random.nextInt(3)));
      case 5 -> view(random.nextInt(100));
      default -> mend();
    }
  }

  private void write(boolean wrong) {
    int number = written.isEmpty() ? 1 : written.last() + 1;
    written.add(number);
    if (wrong) {
      failing.add(number);
    }
    rung(number, wrong);
  }

  private void rung(int number, boolean wrong) {
    String table = "CREATE TABLE bin_" + number + " (id integer PRIMARY KEY);";
    ladder.rung(
        "%04d-bin".formatted(number),
        table + (wrong ? "\nINSERT INTO nowhere VALUES (1);" : ""),
        "DROP TABLE bin_" + number + ";");
  }

  private void mend() {
    failing.forEach(number -> rung(number, false));
    failing.clear();
  }

  private void view(int number) {
    ladder.file(
        "standing/count.sql",
        "--| up\nCREATE VIEW count AS SELECT " + number + " AS n;\n--| down\nDROP VIEW count;\n");
  }

  private List<String> tables() {
    return ladder.query(
        "SELECT name FROM sqlite_schema WHERE type = 'table' AND name LIKE 'bin%' ORDER BY name");
  }

  private void check() {
    History history = ladder.open().history(Optional.of("dev")).history();
    assertThat(history.broken()).isEmpty();
    assertThat(history.stuck()).isEmpty();
    List<String> expected = new ArrayList<>();
    history.rungs().values().stream()
        .filter(record -> record.isInPlace())
        .forEach(record -> expected.add("bin_" + record.number()));
    assertThat(tables()).containsExactlyInAnyOrderElementsOf(expected);
    checkView(history);
    checkStatus(expected.size());
  }

  private void checkView(History history) {
    List<String> views = ladder.query("SELECT sql FROM sqlite_schema WHERE type = 'view'");
    assertThat(views).hasSize(history.standing().size());
    history
        .standing()
        .values()
        .forEach(entry -> assertThat(entry.subject().script()).contains(views.get(0)));
  }

  private void checkStatus(int inPlace) {
    Status status = ladder.open().status(Optional.of("dev"));
    assertThat(status.waiting()).isEqualTo(written.size() - inPlace);
    assertThat(status.needingPerson()).isEmpty();
  }
}
