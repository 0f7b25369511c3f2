package org.wornladder.execution;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.wornladder.AcceptedFileApproval;
import org.wornladder.Against;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.execution.ManualResolution.Verdict;
import org.wornladder.schema.Table;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.DriverKind;

/**
 * An edited file of a rung that is stuck: what ran is not run again, and nothing else is left out.
 */
class AcceptFileTest {
  private static final String A = "CREATE TABLE a (id integer);";
  private static final String B = "CREATE TABLE b (id integer);";
  private static final String C = "CREATE TABLE c (id integer);";
  private static final String WRONG = "INSERT INTO nowhere VALUES (1);";
  private static final String DOWN = "DROP TABLE b;\nDROP TABLE a;";

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void write(String up, String down) {
    ladder.file(
        "rungs/0001-bins.sql",
        "--| run: outside-transaction\n--| up\n" + up + "\n--| down\n" + down + "\n");
  }

  /** A rung that is stuck after its second statement. */
  private void stuck(Enum<?> kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    write(A + "\n" + B + "\n" + WRONG, DOWN);
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
  }

  /** Accepts the file; returns the lines of the question, none if nothing was asked. */
  private List<String> accept() {
    List<String> asked = new ArrayList<>();
    AcceptedFileApproval approval =
        file -> file.lines().forEach(line -> asked.add(line.state() + " " + line.mark().summary()));
    accept(approval);
    return asked;
  }

  private void accept(AcceptedFileApproval approval) {
    ladder
        .open()
        .acceptFile(Optional.of("dev"), 1, "mended", TestLadder.YES, approval, RunListener.SILENT);
  }

  private List<String> tables() {
    return ladder.open().show(Optional.of("dev")).schema().tables().stream()
        .map(Table::name)
        .map(String::toLowerCase)
        .sorted()
        .toList();
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void whereWhatRanStandsAsItRanNobodyIsAsked(Enum<?> kind) {
    stuck(kind);
    write(A + "\n-- the second bin\n" + B + "\n" + C, DOWN);
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("stuck after statement 2, and its file was edited since");
    assertThat(accept()).isEmpty();
    ladder.apply();
    assertThat(tables()).containsExactly("a", "b", "c");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void aStatementThatIsNewBeforeWhatRanIsRun(Enum<?> kind) {
    stuck(kind);
    write(C + "\n" + A + "\n" + B, DOWN);
    assertThatThrownBy(() -> accept(AcceptedFileApproval.given(false)))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("there is no terminal to ask at");
    assertThat(accept())
        .containsExactly(
            "NEXT CREATE TABLE c (id integer)",
            "DONE CREATE TABLE a (id integer)",
            "DONE CREATE TABLE b (id integer)");
    ladder.apply();
    assertThat(tables()).containsExactly("a", "b", "c");
    assertThat(driftAgainstRungs(kind)).isEmpty();
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void whatRanAndIsNotInTheFileAnyMoreIsNamed(Enum<?> kind) {
    stuck(kind);
    write(A + "\n" + C + "\n" + A.replace(" a ", " d "), DOWN);
    assertThat(accept())
        .containsExactly(
            "DONE CREATE TABLE a (id integer)",
            "NEXT CREATE TABLE c (id integer)",
            "NEXT CREATE TABLE d (id integer)",
            "GONE CREATE TABLE b (id integer)");
    ladder.apply();
    assertThat(tables()).containsExactly("a", "b", "c", "d");
    assertThat(driftAgainstRungs(kind)).containsExactly("table b");
  }

  /** What differs; an engine of a driver needs an empty database to find out what rungs make. */
  private List<String> driftAgainstRungs(Enum<?> kind) {
    if (kind instanceof DriverKind driver) {
      TestDatabase scratch = TestDatabase.make(driver, root.resolve("scratch"));
      String settings = ladder.text("ladder.yaml");
      ladder.file(
          "ladder.yaml", settings + "scratch: { url: '" + scratch.url() + "', may-erase: true }\n");
    }
    return ladder.open().drift(Optional.of("dev"), Against.RUNGS, false).structure().stream()
        .map(one -> one.description().toLowerCase(Locale.ROOT))
        .toList();
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void twoOfAKindAreTwoRuns(Enum<?> kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    String row = "INSERT INTO a VALUES (1);";
    write(A + "\n" + row + "\n" + WRONG, "DROP TABLE a;");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
    write(A + "\n" + row + "\n" + row, "DROP TABLE a;");
    accept();
    ladder.apply();
    assertThat(database.query("SELECT count(*) FROM a")).containsExactly("2");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void aWayDownThatWasEditedHalfWayIsNotGoneOnWithInSilence(Enum<?> kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    write(A + "\n" + B, "DROP TABLE b;\n" + WRONG);
    ladder.apply();
    assertThatThrownBy(() -> ladder.rollback(new RollbackOptions.Last(1)))
        .isInstanceOf(StatementFailedException.class);
    write(A + "\n" + B, "DROP TABLE a;\nDROP TABLE b;");
    assertThatThrownBy(() -> ladder.rollback(new RollbackOptions.Last(1)))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("stuck on its way down after statement 1");
    assertThat(accept()).containsExactly("NEXT DROP TABLE a", "DONE DROP TABLE b");
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(tables()).isEmpty();
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void whatIsKnownToHaveFailedIsNotTakenAsDone(Enum<?> kind) {
    stuck(kind);
    for (Verdict verdict : Verdict.values()) {
      assertThatThrownBy(
              () ->
                  ladder
                      .open()
                      .settle(
                          Optional.of("dev"), 1, verdict, "x", TestLadder.YES, RunListener.SILENT))
          .isInstanceOf(RefusedException.class)
          .hasMessageContaining("statement 3 failed, and left nothing");
    }
  }
}
