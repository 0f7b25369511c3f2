package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.SeedApproval;
import org.wornladder.SeedCounts;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.SeedRunResult;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Whatever stands in a table and whatever a file says: what comes of it, against a plain model. */
class RandomSeedTest {
  private static final int ROUNDS = 15;
  private static final String[] VALUES = {
    "",
    "NULL",
    "plain",
    "it's",
    "a,b",
    "say \"so\"",
    "two\nlines",
    "tab\there",
    "back\\slash",
    "käse",
    "\uD83C\uDF4E",
    "=1+1",
    "NULL ",
    " blank",
    "\\N",
    "Plain"
  };

  @TempDir Path root;
  private final Random random = new Random(20261125);
  private TestDatabase database;
  private TestLadder ladder;

  /** A table of texts by key; {@code NULL} for NULL. */
  private static final class Model extends TreeMap<String, String> {
    private static final long serialVersionUID = 1;
  }

  private Model some() {
    Model rows = new Model();
    int count = 1 + random.nextInt(8);
    for (int i = 0; i < count; i++) {
      rows.put("k" + random.nextInt(10), VALUES[random.nextInt(VALUES.length)]);
    }
    return rows;
  }

  private void fill(Model rows) {
    List<String> statements = new ArrayList<>(List.of("DELETE FROM grade"));
    rows.forEach(
        (key, value) ->
            statements.add(
                "INSERT INTO grade (code, name) VALUES ('"
                    + key
                    + "', "
                    + (value.equals("NULL") ? "NULL" : database.engine().quoting().text(value))
                    + ")"));
    database.execute(statements.toArray(String[]::new));
  }

  private void write(Model rows) {
    List<String> lines = new ArrayList<>(List.of("code,name"));
    rows.forEach(
        (key, value) ->
            lines.add(
                key
                    + ","
                    + (value.equals("NULL") ? "" : "\"" + value.replace("\"", "\"\"") + "\"")));
    if (random.nextBoolean()) {
      java.util.Collections.reverse(lines.subList(1, lines.size()));
    }
    ladder.file("seeds/grade.csv", String.join("\n", lines) + "\n");
  }

  private Model found() {
    Model rows = new Model();
    List<String> keys = database.query("SELECT code FROM grade ORDER BY code");
    List<String> names = database.query("SELECT name FROM grade ORDER BY code");
    for (int i = 0; i < keys.size(); i++) {
      rows.put(keys.get(i), names.get(i));
    }
    return rows;
  }

  private SeedRunResult seed(SeedOptions options) {
    return ladder
        .open()
        .seed(
            Optional.of("dev"), options, SeedApproval.given(Optional.empty()), SeedListener.SILENT);
  }

  @ParameterizedTest
  @EnumSource
  void theTableBecomesWhatTheFileSays(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    String set = kind == Kind.MARIADB ? " CHARACTER SET utf8mb4" : "";
    database.execute(
        "CREATE TABLE grade (code varchar(8) NOT NULL PRIMARY KEY, name varchar(60))" + set);
    String settings = ladder.text("ladder.yaml");
    for (int round = 0; round < ROUNDS; round++) {
      boolean update = random.nextBoolean();
      boolean delete = random.nextBoolean();
      Model stands = some();
      Model file = some();
      fill(stands);
      write(file);
      ladder.file(
          "ladder.yaml",
          settings
              + "seeds: [{ table: grade, existing: "
              + (update ? "update" : "leave")
              + ", extra: "
              + (delete ? "delete" : "keep")
              + " }]\n");
      check(stands, file, update, delete);
    }
  }

  private void check(Model stands, Model file, boolean update, boolean delete) {
    Model expected = new Model();
    long added = 0;
    long updated = 0;
    for (Map.Entry<String, String> row : file.entrySet()) {
      String before = stands.get(row.getKey());
      added += before == null ? 1 : 0;
      boolean changes = before != null && update && !before.equals(row.getValue());
      updated += changes ? 1 : 0;
      expected.put(row.getKey(), before == null || update ? row.getValue() : before);
    }
    long deleted = 0;
    for (Map.Entry<String, String> row : stands.entrySet()) {
      if (!file.containsKey(row.getKey())) {
        deleted += delete ? 1 : 0;
        if (!delete) {
          expected.put(row.getKey(), row.getValue());
        }
      }
    }
    SeedCounts counts = new SeedCounts(added, updated, deleted, file.size() - added - updated);
    String story = stands + " and " + file + ", update " + update + ", delete " + delete;
    SeedRunResult planned = seed(new SeedOptions(List.of(), true, 100));
    assertThat(planned.results().get(0).counts()).as(story).isEqualTo(counts);
    assertThat(planned.results().get(0).changes()).hasSize((int) (added + updated + deleted));
    assertThat(found()).as("nothing is written: " + story).isEqualTo(stands);
    assertThat(seed(SeedOptions.ALL).results().get(0).counts()).as(story).isEqualTo(counts);
    assertThat(found()).as(story).isEqualTo(expected);
    assertThat(seed(SeedOptions.ALL).isQuiet()).as(story).isTrue();
  }
}
