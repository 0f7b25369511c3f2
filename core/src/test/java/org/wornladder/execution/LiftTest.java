package org.wornladder.execution;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Ladder;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** What a rung lifts, with what needs it. */
class LiftTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root).tables(1);
    view("stock", "bin_1", "");
    view("all_stock", "stock", "--| needs: stock\n");
    view("whole_stock", "all_stock", "--| needs: all_stock\n");
    ladder.apply();
  }

  private void view(String name, String from, String header) {
    ladder.file(
        "standing/" + name + ".sql",
        header
            + "--| up\nCREATE VIEW "
            + name
            + " AS SELECT id FROM "
            + from
            + ";\n--| down\nDROP VIEW "
            + name
            + ";\n");
  }

  private void lifting() {
    ladder.file(
        "rungs/0002-text.sql",
        "--| lifts: stock\n--| up\nDROP TABLE bin_1;\nCREATE TABLE bin_1 (id varchar(9));\n"
            + "--| down\nDROP TABLE bin_1;\nCREATE TABLE bin_1 (id integer PRIMARY KEY);\n");
  }

  @ParameterizedTest
  @EnumSource
  void whatNeedsIsTakenDownBeforeAndPutBackAfter(Kind kind) {
    on(kind);
    lifting();
    ladder.apply();
    database.execute("INSERT INTO bin_1 VALUES ('a')");
    assertThat(database.query("SELECT id FROM whole_stock")).containsExactly("a");
    assertThat(ladder.apply().done()).isEmpty();
    database.execute("DELETE FROM bin_1");
    ladder.rollback(new RollbackOptions.Last(1));
    database.execute("INSERT INTO bin_1 VALUES (7)");
    assertThat(database.query("SELECT id FROM whole_stock")).containsExactly("7");
    assertThat(ladder.apply().done()).hasSize(1);
  }

  @ParameterizedTest
  @EnumSource
  void whatNeedsAndHasNoWayDownIsNamedBeforeAnythingRuns(Kind kind) {
    on(kind);
    ladder.file(
        "standing/whole_stock.sql",
        "--| needs: all_stock\n--| up\nCREATE VIEW whole_stock AS SELECT id FROM all_stock WHERE id > 0;\n");
    ladder.apply();
    lifting();
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("0002 lifts what is needed by whole_stock, which has no way down");
    assertThat(Ladder.check(root).problems())
        .filteredOn(problem -> problem.isError())
        .singleElement()
        .satisfies(problem -> assertThat(problem.message()).contains("whole_stock"));
  }
}
