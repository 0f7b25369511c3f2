package org.wornladder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.File;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.execution.Decision;
import org.wornladder.execution.Plan;
import org.wornladder.execution.Step;
import org.wornladder.journal.Event;
import org.wornladder.server.SqlDataSource;
import org.wornladder.server.StatusRun;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.sql.Statement;

/** The front door, as a Java program uses it. */
class LadderApiTest {
  @TempDir Path root;
  private TestLadder ladder;

  @BeforeEach
  void project() {
    ladder = new TestLadder(root).tables(3);
  }

  @Test
  void thePlanThatIsShownIsThePlanThatRuns() {
    Plan shown = ladder.open().preview(Optional.of("dev"), ApplyOptions.ALL).plan();
    List<Plan> run = new ArrayList<>();
    ladder.apply(
        new RunListener() {
          @Override
          public void started(Plan plan) {
            run.add(plan);
          }
        });
    assertThat(run).hasSize(1);
    assertThat(run.get(0).steps()).isEqualTo(shown.steps());
    assertThat(shown.isThere()).isFalse();
  }

  @Test
  void theListenerHearsEveryStepAndStatementInOrder() {
    List<String> heard = new ArrayList<>();
    RunListener listener =
        new RunListener() {
          @Override
          public void stepStarted(Step step, int index) {
            heard.add("start " + index + " " + step.label());
          }

          @Override
          public void statementStarted(Step step, Statement statement) {
            heard.add(statement.place().toString());
          }

          @Override
          public void stepDone(RunResult.Done done, int index) {
            heard.add("done " + index + " " + done.result());
          }
        };
    ladder.apply(listener);
    assertThat(heard)
        .startsWith("start 1 0001", "rungs/0001-bin-1.sql:2:1", "done 1 APPLIED", "start 2 0002")
        .hasSize(9);
  }

  @Test
  void aListenerThatWantsToStopIsHeardBetweenSteps() {
    int[] steps = {0};
    RunResult outcome =
        ladder.apply(
            new RunListener() {
              @Override
              public void stepDone(RunResult.Done done, int index) {
                steps[0] = index;
              }

              @Override
              public boolean wantsStop() {
                return steps[0] == 2;
              }
            });
    assertThat(outcome.stopped()).isTrue();
    assertThat(outcome.at()).isEqualTo(2);
    assertThat(ladder.apply().at()).isEqualTo(3);
  }

  @Test
  void aListenerThatThrowsUndoesTheStepItHeardOf() {
    RunListener thrower =
        new RunListener() {
          @Override
          public void statementStarted(Step step, Statement statement) {
            if (step.label().equals("0002")) {
              throw new IllegalStateException("enough");
            }
          }
        };
    assertThatThrownBy(() -> ladder.apply(thrower)).hasMessage("enough");
    Status status = ladder.open().status(Optional.of("dev"));
    assertThat(status.at()).isEqualTo(1);
    assertThat(ladder.apply().rungsRun()).isEqualTo(2);
  }

  @Test
  void anOutcomeSaysWhatChanged() {
    RunResult outcome = ladder.apply();
    assertThat(outcome.structure().text()).isEqualTo("3 tables and 3 columns added");
    assertThat(outcome.done())
        .extracting(RunResult.Done::result)
        .containsOnly(RunResult.Result.APPLIED);
    RunResult nothing = ladder.apply();
    assertThat(nothing.plan().isEmpty()).isTrue();
    assertThat(nothing.structure().text()).isEqualTo("structure unchanged");
    assertThat(nothing.at()).isEqualTo(3);
  }

  @Test
  void approvalIsAskedOnceAndOnlyIfThereIsSomethingToDo() {
    List<String> asked = new ArrayList<>();
    Approval counting = (plan, environment) -> asked.add(environment.name());
    ladder.open().apply(Optional.of("test"), ApplyOptions.ALL, counting, RunListener.SILENT);
    ladder.open().apply(Optional.of("test"), ApplyOptions.ALL, counting, RunListener.SILENT);
    assertThat(asked).containsExactly("test");
  }

  @Test
  void aGuardedEnvironmentTakesItsOwnNameAlone() {
    ladder.open().apply(Optional.of("test"), ApplyOptions.ALL, TestLadder.YES, RunListener.SILENT);
    assertThatThrownBy(
            () ->
                ladder
                    .open()
                    .apply(
                        Optional.of("live"), ApplyOptions.ALL, TestLadder.YES, RunListener.SILENT))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("live is guarded");
    Approval named = Approval.given(Optional.of("live"), false);
    assertThat(
            ladder
                .open()
                .apply(Optional.of("live"), ApplyOptions.ALL, named, RunListener.SILENT)
                .at())
        .isEqualTo(3);
    RollbackOptions last = new RollbackOptions(new RollbackOptions.Last(1), false, false);
    assertThatThrownBy(
            () ->
                ladder
                    .open()
                    .rollback(Optional.of("live"), last, TestLadder.YES, RunListener.SILENT))
        .isInstanceOf(RefusedException.class);
  }

  @Test
  void everyReasonToRefuseIsToldAtOnce() {
    ladder.apply();
    ladder
        .rung("0001-bin-1", "CREATE TABLE other (id integer);", "DROP TABLE other;")
        .rung("0003-bin-3", "CREATE TABLE another (id integer);", "DROP TABLE another;");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .extracting(e -> ((RefusedException) e).refusals())
        .asInstanceOf(org.assertj.core.api.InstanceOfAssertFactories.LIST)
        .hasSize(2);
  }

  @Test
  void aFailureSaysWhatFailedAndWhatIsLeft() {
    ladder.rung("0004-wrong", "CREATE TABLE x (id integer);\nINSERT INTO y VALUES (1);", "");
    assertThatThrownBy(ladder::apply)
        .isInstanceOfSatisfying(
            StatementFailedException.class,
            e -> {
              assertThat(e.failure().step()).isEqualTo("0004");
              assertThat(e.failure().place()).isEqualTo("rungs/0004-wrong.sql:3:1");
              assertThat(e.failure().message()).isEqualTo("no such table: y");
              assertThat(e.failure().completed()).isEqualTo(3);
              assertThat(e.failure().left()).contains("3 steps before it are in place");
              assertThat(e).hasCauseInstanceOf(java.sql.SQLException.class);
            });
    assertThat(ladder.open().history(Optional.of("dev")).history().entries())
        .extracting(entry -> entry.event())
        .containsExactly(Event.APPLIED, Event.APPLIED, Event.APPLIED, Event.FAILED);
  }

  @Test
  void aTargetThatIsNotThereIsRefused() {
    ApplyOptions to = new ApplyOptions(OptionalLong.of(9), false, Optional.empty());
    assertThatThrownBy(() -> ladder.open().preview(Optional.of("dev"), to))
        .hasMessage("there is no rung 9");
    assertThatThrownBy(() -> ladder.rollback(new RollbackOptions.To(2)))
        .hasMessageContaining("0002 is not in place on dev");
    assertThatThrownBy(() -> new RollbackOptions.Last(0))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void ranksOfRollBackFollowTheOrderOfTheRuns() {
    ladder.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments: { dev: { url: \"jdbc:sqlite:dev.db\", late: allow } }\n");
    ladder.delete("rungs/0002-bin-2.sql").apply();
    ladder.tables(3).apply();
    RunResult back = ladder.rollback(new RollbackOptions.Last(2));
    assertThat(back.done()).extracting(done -> done.step().label()).containsExactly("0002", "0003");
  }

  @Test
  void decisionsStandInThePlan() {
    ladder
        .file("rungs/0004-a.sql", "--| only-in: test\n--| up\nSELECT 1;\n")
        .file(
            "rungs/0005-b.sql",
            "--| when: table bin_1 exists\n--| otherwise: pass\n--| up\nSELECT 1;\n");
    List<Step.OfRung> rungs =
        ladder.open().preview(Optional.of("dev"), ApplyOptions.ALL).plan().rungs();
    assertThat(rungs.get(0).decision()).isInstanceOf(Decision.Run.class);
    assertThat(rungs.get(3).decision()).isEqualTo(new Decision.PassOver("only in test"));
    assertThat(rungs.get(4).decision())
        .isInstanceOfSatisfying(
            Decision.AtItsTurn.class, turn -> assertThat(turn.passes()).isTrue());
    assertThat(rungs.get(3).oneWay()).contains("no way down is written");
  }

  @Test
  void oneProcessMayOpenManyLaddersButChangesOneAtATime() {
    RunListener second =
        new RunListener() {
          @Override
          public void statementStarted(Step step, Statement statement) {
            assertThatThrownBy(
                    () ->
                        ladder
                            .builder()
                            .lockWait(java.time.Duration.ZERO)
                            .build()
                            .apply(
                                Optional.of("dev"),
                                ApplyOptions.ALL,
                                TestLadder.YES,
                                RunListener.SILENT))
                .isInstanceOf(LockWaitException.class)
                .hasMessageContaining("this process");
            throw new IllegalStateException("seen");
          }
        };
    assertThatThrownBy(() -> ladder.apply(second)).hasMessage("seen");
    assertThat(ladder.apply().rungsRun()).isEqualTo(3);
  }

  @Test
  void severalProjectsShareOneJournal() {
    ladder.apply();
    ladder.file(
        "ladder.yaml", "name: orchards\nenvironments: { dev: { url: \"jdbc:sqlite:dev.db\" } }\n");
    ladder
        .delete("rungs/0001-bin-1.sql")
        .delete("rungs/0002-bin-2.sql")
        .delete("rungs/0003-bin-3.sql");
    ladder.rung("0001-trees", "CREATE TABLE tree (id integer);", "DROP TABLE tree;");
    assertThat(ladder.open().status(Optional.of("dev")).waiting()).isEqualTo(1);
    ladder.apply();
    assertThat(ladder.open().history(Optional.of("dev")).history().entries()).hasSize(1);
    assertThat(ladder.query("SELECT project FROM ladder_journal"))
        .containsExactly("hollowfield", "hollowfield", "hollowfield", "orchards");
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
  }

  @Test
  void aRungThatIsInPlaceSomewhereIsNotRemoved() {
    ladder
        .open()
        .apply(
            Optional.of("test"),
            new ApplyOptions(OptionalLong.of(1), false, Optional.empty()),
            TestLadder.YES,
            RunListener.SILENT);
    Ladder open = ladder.open();
    assertThatThrownBy(() -> open.removeRung(1, Set.of())).hasMessageContaining("in place on test");
    assertThat(open.removeRung(3, Set.of()).asked()).containsExactly("dev", "test", "live");
    assertThatThrownBy(() -> open.removeRung(9, Set.of())).hasMessage("there is no rung 9");
  }

  @Test
  void aTableThatIsNotThereIsToldWithTheNearestName() {
    ladder.apply();
    assertThat(ladder.open().showTable(Optional.of("dev"), "bin_1", 5).header())
        .containsExactly("id");
    assertThatThrownBy(() -> ladder.open().showTable(Optional.of("dev"), "bin1", 5))
        .isInstanceOf(ProjectException.class)
        .hasMessage("there is no table 'bin1'");
  }

  @ParameterizedTest
  @EnumSource(Kind.class)
  void aDataSourceGivesTheConnections(Kind kind) {
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder.on(database, root);
    SqlDataSource source = new SqlDataSource(database.url());
    Ladder fromSource = Ladder.builder().project(root).environment("dev", source).build();
    Optional<String> dev = Optional.of("dev");
    assertThat(fromSource.apply(dev, ApplyOptions.ALL).done()).hasSize(3);
    assertThat(fromSource.status(dev).rungs()).hasSize(3);
    RollbackOptions toOne = RollbackOptions.builder().to(1).build();
    assertThat(fromSource.rollback(dev, toOne).done()).hasSize(2);
    assertThat(source.opened()).as("one for each call, and one to ask for the url").isEqualTo(4);
  }

  /** What a program sees that brings the core without the optional libraries. */
  @Test
  void aDriverThatIsNotThereIsNamed() throws IOException, InterruptedException {
    String classPath =
        Stream.of(System.getProperty("java.class.path").split(File.pathSeparator))
            .filter(entry -> !entry.contains("sqlite-jdbc"))
            .collect(Collectors.joining(File.pathSeparator));
    Process process =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-cp",
                classPath,
                StatusRun.class.getName(),
                root.toString())
            .redirectErrorStream(true)
            .start();
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(process.waitFor()).isZero();
    assertThat(said).contains("the driver of sqlite is not on the class path");
  }
}
