package org.wornladder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.climb.ApplyOptions;
import org.wornladder.climb.Approval;
import org.wornladder.climb.Decision;
import org.wornladder.climb.Listener;
import org.wornladder.climb.Outcome;
import org.wornladder.climb.Plan;
import org.wornladder.climb.RefusedException;
import org.wornladder.climb.RollbackOptions;
import org.wornladder.climb.StatementFailedException;
import org.wornladder.climb.Step;
import org.wornladder.engine.LockWaitException;
import org.wornladder.journal.Event;
import org.wornladder.project.ProjectException;
import org.wornladder.sql.Statement;
import org.wornladder.survey.Status;

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
    Plan shown = ladder.open().preview("dev", ApplyOptions.ALL);
    List<Plan> run = new ArrayList<>();
    ladder.apply(
        new Listener() {
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
    Listener listener =
        new Listener() {
          @Override
          public void stepStarted(Step step, int index) {
            heard.add("start " + index + " " + step.label());
          }

          @Override
          public void statementStarted(Step step, Statement statement) {
            heard.add(statement.place().toString());
          }

          @Override
          public void stepDone(Outcome.Done done, int index) {
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
    Outcome outcome =
        ladder.apply(
            new Listener() {
              @Override
              public void stepDone(Outcome.Done done, int index) {
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
    Listener thrower =
        new Listener() {
          @Override
          public void statementStarted(Step step, Statement statement) {
            if (step.label().equals("0002")) {
              throw new IllegalStateException("enough");
            }
          }
        };
    assertThatThrownBy(() -> ladder.apply(thrower)).hasMessage("enough");
    Status status = ladder.open().status("dev");
    assertThat(status.at()).isEqualTo(1);
    assertThat(ladder.apply().rungsRun()).isEqualTo(2);
  }

  @Test
  void anOutcomeSaysWhatChanged() {
    Outcome outcome = ladder.apply();
    assertThat(outcome.structure().text()).isEqualTo("+3 tables, +3 columns");
    assertThat(outcome.done())
        .extracting(Outcome.Done::result)
        .containsOnly(Outcome.Result.APPLIED);
    Outcome nothing = ladder.apply();
    assertThat(nothing.plan().isEmpty()).isTrue();
    assertThat(nothing.structure().text()).isEqualTo("no change");
    assertThat(nothing.at()).isEqualTo(3);
  }

  @Test
  void approvalIsAskedOnceAndOnlyIfThereIsSomethingToDo() {
    List<String> asked = new ArrayList<>();
    Approval counting = (plan, environment) -> asked.add(environment.name());
    ladder.open().apply("test", ApplyOptions.ALL, counting, Listener.SILENT);
    ladder.open().apply("test", ApplyOptions.ALL, counting, Listener.SILENT);
    assertThat(asked).containsExactly("test");
  }

  @Test
  void aGuardedEnvironmentTakesItsOwnNameAlone() {
    ladder.open().apply("test", ApplyOptions.ALL, TestLadder.YES, Listener.SILENT);
    assertThatThrownBy(
            () -> ladder.open().apply("live", ApplyOptions.ALL, TestLadder.YES, Listener.SILENT))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("live is guarded");
    Approval named = Approval.given(Optional.of("live"), false);
    assertThat(ladder.open().apply("live", ApplyOptions.ALL, named, Listener.SILENT).at())
        .isEqualTo(3);
    RollbackOptions last = new RollbackOptions(new RollbackOptions.Last(1), false);
    assertThatThrownBy(() -> ladder.open().rollback("live", last, TestLadder.YES, Listener.SILENT))
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
              assertThat(e.failure().words()).isEqualTo("no such table: y");
              assertThat(e.failure().completed()).isEqualTo(3);
              assertThat(e.failure().left()).contains("3 steps before it are in place");
              assertThat(e).hasCauseInstanceOf(java.sql.SQLException.class);
            });
    assertThat(ladder.open().history("dev").history().entries())
        .extracting(entry -> entry.event())
        .containsExactly(Event.APPLIED, Event.APPLIED, Event.APPLIED, Event.FAILED);
  }

  @Test
  void aTargetThatIsNotThereIsRefused() {
    ApplyOptions to = new ApplyOptions(OptionalLong.of(9), false, Optional.empty());
    assertThatThrownBy(() -> ladder.open().preview("dev", to)).hasMessage("there is no rung 9");
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
    Outcome back = ladder.rollback(new RollbackOptions.Last(2));
    assertThat(back.done()).extracting(done -> done.step().label()).containsExactly("0002", "0003");
  }

  @Test
  void decisionsStandInThePlan() {
    ladder
        .file("rungs/0004-a.sql", "--| only-in: test\n--| up\nSELECT 1;\n")
        .file(
            "rungs/0005-b.sql",
            "--| when: table bin_1 exists\n--| otherwise: pass\n--| up\nSELECT 1;\n");
    List<Step.OfRung> rungs = ladder.open().preview("dev", ApplyOptions.ALL).rungs();
    assertThat(rungs.get(0).decision()).isInstanceOf(Decision.Run.class);
    assertThat(rungs.get(3).decision()).isEqualTo(new Decision.PassOver("only in test"));
    assertThat(rungs.get(4).decision())
        .isInstanceOfSatisfying(
            Decision.AtItsTurn.class, turn -> assertThat(turn.passes()).isTrue());
    assertThat(rungs.get(3).oneWay()).contains("no way down is written");
  }

  @Test
  void oneProcessMayOpenManyLaddersButChangesOneAtATime() {
    LadderSettings impatient =
        LadderSettings.standard("test").withLockWait(java.time.Duration.ZERO);
    Listener second =
        new Listener() {
          @Override
          public void statementStarted(Step step, Statement statement) {
            assertThatThrownBy(
                    () ->
                        Ladder.open(root, impatient)
                            .apply("dev", ApplyOptions.ALL, TestLadder.YES, Listener.SILENT))
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
    assertThat(ladder.open().status("dev").waiting()).isEqualTo(1);
    ladder.apply();
    assertThat(ladder.open().history("dev").history().entries()).hasSize(1);
    assertThat(ladder.query("SELECT project FROM ladder_journal"))
        .containsExactly("hollowfield", "hollowfield", "hollowfield", "orchards");
    assertThat(ladder.open().history("dev").history().broken()).isEmpty();
  }

  @Test
  void aRungThatIsInPlaceSomewhereIsNotRemoved() {
    ladder
        .open()
        .apply(
            "test",
            new ApplyOptions(OptionalLong.of(1), false, Optional.empty()),
            TestLadder.YES,
            Listener.SILENT);
    RungRemoval removal = new RungRemoval(ladder.open());
    assertThatThrownBy(() -> removal.remove(1, Set.of())).hasMessageContaining("in place on test");
    assertThat(removal.remove(3, Set.of()).asked()).containsExactly("dev", "test", "live");
    assertThatThrownBy(() -> removal.remove(9, Set.of())).hasMessage("there is no rung 9");
  }

  @Test
  void aTableThatIsNotThereIsToldWithTheNearestName() {
    ladder.apply();
    assertThat(ladder.open().showTable("dev", "bin_1", 5).header()).containsExactly("id");
    assertThatThrownBy(() -> ladder.open().showTable("dev", "bin1", 5))
        .isInstanceOf(ProjectException.class)
        .hasMessage("there is no table 'bin1'");
  }
}
