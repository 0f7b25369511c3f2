package org.wornladder.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.wornladder.AcceptedFileApproval;
import org.wornladder.Against;
import org.wornladder.ApplyOptions;
import org.wornladder.JournalException;
import org.wornladder.LadderException;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;

/** What somebody writes into the tool's own tables is noticed, whatever it is. */
class TamperingTest {
  private static final List<String> TEXTS =
      List.of(
          "at",
          "project",
          "event",
          "name",
          "up_text",
          "up_fingerprint",
          "down_fingerprint",
          "script",
          "database_user",
          "os_user",
          "host",
          "session",
          "tool",
          "note",
          "previous_hash",
          "hash");
  private static final List<String> NUMBERS = List.of("rung", "statement");

  @TempDir Path root;
  private TestDatabase database;
  private Connection open;
  private TestLadder ladder;

  @AfterEach
  void close() throws SQLException {
    open.close();
  }

  /** A journal with entries of seven kinds. */
  private void on(Enum<?> kind) throws SQLException {
    database = TestDatabase.make(kind, root);
    // An embedded database closes with its last connection, which takes long.
    open = database.connect();
    ladder = TestLadder.on(database, root).tables(2);
    ladder.file(
        "standing/light.sql",
        "--| up\nCREATE VIEW light AS SELECT id FROM bin_1;\n--| down\nDROP VIEW light;\n");
    ladder.file(
        "rungs/0003-guess.sql",
        "--| when: table bin_1 missing\n--| otherwise: pass\n--| up\nCREATE TABLE guess (id integer);\n--| down\nDROP TABLE guess;\n");
    ladder.apply();
    ladder.rung("0004-wrong", "CREATE TABLE wrong (id integr(1,2,3,4));", "DROP TABLE wrong;");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
    ladder.rollback(new RollbackOptions.To(1));
    ladder.delete("rungs/0004-wrong.sql");
    ladder.rung("0001-bin-1", "CREATE TABLE bin_1 (id bigint PRIMARY KEY);", "DROP TABLE bin_1;");
    ladder
        .open()
        .acceptFile(
            Optional.of("dev"),
            1,
            "a note",
            TestLadder.YES,
            AcceptedFileApproval.given(false),
            RunListener.SILENT);
    assertThat(broken()).isEmpty();
  }

  private Optional<History.Break> broken() {
    return ladder.open().history(Optional.of("dev")).history().broken();
  }

  private String table(String name) {
    return database.engine().quoting().name(name);
  }

  private List<String> events() {
    return database.events();
  }

  /** Whether the history says that something is wrong, in words. */
  private boolean isNoticed() {
    try {
      return broken().isPresent();
    } catch (JournalException e) {
      return true;
    }
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void aChangeToAnyColumnOfAnyKindOfEntryIsNoticed(Enum<?> kind) throws SQLException {
    on(kind);
    List<String> events = events();
    assertThat(events.stream().distinct().count()).isGreaterThanOrEqualTo(5);
    SoftAssertions all = new SoftAssertions();
    for (int i = 0; i < events.size(); i++) {
      if (events.indexOf(events.get(i)) == i) {
        for (String change : changes()) {
          all.assertThat(isNoticedAfter(change, i + 1))
              .as("entry %d, %s: %s", i + 1, events.get(i), change)
              .isTrue();
        }
      }
    }
    all.assertAll();
    assertThat(broken()).isEmpty();
  }

  private String column(String name) {
    return database.journalColumn(name);
  }

  private String set(String column, String value) {
    return column(column) + " = " + value;
  }

  private String where(String column, Object value) {
    return " WHERE " + set(column, value.toString());
  }

  private List<String> changes() {
    List<String> changes = new ArrayList<>();
    for (String column : TEXTS) {
      changes.add(set(column, "'x'"));
    }
    changes.add(set("event", "'applied'") + ", " + set("note", "'x'"));
    changes.add(set("at", "'2020-01-01T00:00:00.000Z'"));
    for (String column : NUMBERS) {
      changes.add(set(column, column(column) + " + 7"));
      changes.add(set(column, "-1"));
    }
    changes.add(set("number", column("number") + " + 100"));
    return changes;
  }

  /** Changes an entry, looks, and changes it back. */
  private boolean isNoticedAfter(String change, int entry) {
    String journal = table("ladder_journal");
    database.copyTable(journal, "kept", where("number", entry));
    database.execute("UPDATE " + journal + " SET " + change + where("number", entry));
    boolean noticed = isNoticed();
    database.execute(
        "DELETE FROM " + journal + where("number", entry),
        "DELETE FROM " + journal + where("number", entry + 100),
        "INSERT INTO " + journal + " SELECT * FROM kept",
        "DROP TABLE kept");
    return noticed;
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void entriesThatAreDeletedSwappedOrAddedAreNoticed(Enum<?> kind) throws SQLException {
    on(kind);
    int last = events().size();
    String journal = table("ladder_journal");
    String swap = "UPDATE %s SET " + set("number", "%d") + where("number", "%d");
    List<List<String>> cases = new ArrayList<>();
    for (int entry = 1; entry <= last; entry++) {
      cases.add(List.of("DELETE FROM " + journal + where("number", entry)));
      cases.add(List.of("DELETE FROM " + journal + " WHERE " + column("number") + " >= " + entry));
    }
    for (int entry = 1; entry < last; entry++) {
      cases.add(
          List.of(
              swap.formatted(journal, 1000, entry),
              swap.formatted(journal, entry, entry + 1),
              swap.formatted(journal, entry + 1, 1000)));
    }
    List<String> all = new ArrayList<>(TEXTS);
    all.addAll(List.of("rung", "statement", "elapsed_ms"));
    String columns = String.join(", ", all.stream().map(this::column).toList());
    cases.add(
        List.of(
            "INSERT INTO %1$s (%4$s, %2$s) SELECT %3$d, %2$s FROM %1$s WHERE %4$s = 1"
                .formatted(journal, columns, last + 1, column("number"))));
    cases.add(List.of("DROP TABLE " + journal));
    String snapshots = table("ladder_snapshot");
    cases.add(List.of("DROP TABLE " + snapshots));
    cases.add(List.of("DELETE FROM " + snapshots));
    cases.add(
        List.of(
            "UPDATE "
                + snapshots
                + " SET "
                + set("entry", column("entry") + " - 1")
                + where("number", 0)));
    cases.add(
        List.of("UPDATE " + snapshots + " SET " + set("fingerprint", "'x'") + where("number", 0)));
    for (List<String> tampering : cases) {
      database.copyTable(journal, "kept_journal", "");
      database.copyTable(snapshots, "kept_snapshots", "");
      database.execute(tampering.toArray(String[]::new));
      assertThat(isNoticed()).as("%s", tampering).isTrue();
      dropIfThere(journal);
      dropIfThere(snapshots);
      rename("kept_journal", journal);
      rename("kept_snapshots", snapshots);
    }
    assertThat(broken()).isEmpty();
  }

  private void dropIfThere(String table) {
    try {
      database.execute("DROP TABLE " + table);
    } catch (IllegalStateException e) {
      // The tampering dropped it.
    }
  }

  private void rename(String table, String name) {
    boolean derby = database.toString().equals("DERBY");
    database.execute(
        (derby ? "RENAME TABLE " + table : "ALTER TABLE " + table + " RENAME") + " TO " + name);
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void noNonsenseInAnyColumnIsMoreThanAnErrorInWords(Enum<?> kind) throws SQLException {
    on(kind);
    String journal = table("ladder_journal");
    List<String> nonsense = new ArrayList<>();
    for (String column : TEXTS) {
      nonsense.add(set(column, "''"));
      nonsense.add(set(column, "'ä\u2028'"));
    }
    for (String column : NUMBERS) {
      nonsense.add(set(column, "-7"));
      nonsense.add(set(column, "32000"));
    }
    nonsense.add(set("elapsed_ms", "-9"));
    nonsense.add(set("event", "'statement-started'") + ", " + set("statement", "77"));
    nonsense.add(set("event", "'statement-failed'") + ", " + set("statement", "-1"));
    nonsense.add(set("event", "'down-started'"));
    nonsense.add(set("event", "'renumbered'") + ", " + set("rung", "0"));
    for (String change : nonsense) {
      database.copyTable(journal, "kept", "");
      database.execute("UPDATE " + journal + " SET " + change);
      everyCommandAnswersInWords(change);
      database.execute(
          "DELETE FROM " + journal,
          "INSERT INTO " + journal + " SELECT * FROM kept",
          "DROP TABLE kept");
    }
  }

  private void everyCommandAnswersInWords(String change) {
    Optional<String> dev = Optional.of("dev");
    List<Runnable> commands =
        List.of(
            () -> ladder.open().status(dev),
            () -> ladder.open().history(dev),
            () -> ladder.open().drift(dev, Against.EXPECTED, false),
            () -> ladder.open().checkAgainst(dev, Optional.empty()),
            () -> ladder.open().preview(dev, ApplyOptions.ALL),
            () -> ladder.apply(),
            () -> ladder.rollback(new RollbackOptions.To(0)));
    for (int i = 0; i < commands.size(); i++) {
      try {
        commands.get(i).run();
      } catch (LadderException e) {
        assertThat(e.getMessage()).as("%s, command %d", change, i).isNotBlank();
      } catch (RuntimeException e) {
        throw new AssertionError(change + ", command " + i, e);
      }
    }
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void aPersonMayTakeABrokenJournalAsItIsAndWhatComesLaterIsNoticedAgain(Enum<?> kind)
      throws SQLException {
    on(kind);
    Optional<String> dev = Optional.of("dev");
    assertThatThrownBy(
            () -> ladder.open().acceptJournal(dev, "no", TestLadder.YES, RunListener.SILENT))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("the journal's chain holds");
    String journal = table("ladder_journal");
    int last = events().size();
    database.execute("DELETE FROM " + journal + where("number", last));
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("the journal's chain is broken at entry " + last);
    ladder.open().acceptJournal(dev, "from a backup", TestLadder.YES, RunListener.SILENT);
    assertThat(broken()).isEmpty();
    ladder.rung("0009-more", "CREATE TABLE more (id integer);", "DROP TABLE more;");
    database.execute("UPDATE " + journal + " SET " + set("note", "'x'") + where("number", 1));
    assertThat(broken()).isPresent();
    database.execute("UPDATE " + journal + " SET " + set("note", "''") + where("number", 1));
    assertThat(broken()).isEmpty();
  }
}
