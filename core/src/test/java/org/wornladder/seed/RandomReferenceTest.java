package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.LadderException;
import org.wornladder.SeedApproval;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.SeedRunResult;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/**
 * Two tables whose unique values move between rows, one pointing to the other by meaning: what
 * comes of it, against a plain model.
 */
class RandomReferenceTest {
  private static final int ROUNDS = 25;

  @TempDir Path root;
  private final Random random = new Random(20261130);
  private TestDatabase database;
  private TestLadder ladder;

  /** A tree: the variety that it is of, and the place where it alone stands; 0 for none. */
  private record Tree(int variety, int place) {}

  /** What stands, or shall: varieties' names by number, trees by code. */
  private record Model(Map<Integer, String> varieties, Map<String, Tree> trees) {
    /** Whether the database could hold it. */
    boolean isPossible() {
      List<Integer> places =
          trees.values().stream().map(Tree::place).filter(place -> place > 0).toList();
      return new HashSet<>(varieties.values()).size() == varieties.size()
          && new HashSet<>(places).size() == places.size()
          && trees.values().stream().allMatch(tree -> varieties.containsKey(tree.variety()));
    }
  }

  /** A file's row of a tree: the variety by its name. */
  private record Line(String name, int place) {}

  private List<Integer> shuffled(int most) {
    List<Integer> numbers = new ArrayList<>();
    for (int i = 1; i <= most; i++) {
      numbers.add(i);
    }
    Collections.shuffle(numbers, random);
    return numbers;
  }

  private Map<Integer, String> varieties() {
    Map<Integer, String> varieties = new TreeMap<>();
    List<Integer> names = shuffled(6);
    List<Integer> ids = shuffled(6);
    int count = 1 + random.nextInt(5);
    for (int i = 0; i < count; i++) {
      varieties.put(ids.get(i), "n" + names.get(i));
    }
    return varieties;
  }

  private Model standing() {
    Map<Integer, String> varieties = varieties();
    List<Integer> ids = new ArrayList<>(varieties.keySet());
    Map<String, Tree> trees = new TreeMap<>();
    List<Integer> places = shuffled(6);
    for (int i = 0; i < random.nextInt(6); i++) {
      int place = random.nextInt(4) == 0 ? 0 : places.get(i);
      trees.put("t" + random.nextInt(7), new Tree(ids.get(random.nextInt(ids.size())), place));
    }
    return new Model(varieties, trees);
  }

  private void fill(Model model) {
    List<String> statements = new ArrayList<>(List.of("DELETE FROM tree", "DELETE FROM variety"));
    model
        .varieties()
        .forEach(
            (id, name) ->
                statements.add(
                    "INSERT INTO variety (id, name) VALUES (" + id + ", '" + name + "')"));
    model
        .trees()
        .forEach(
            (code, tree) ->
                statements.add(
                    "INSERT INTO tree (code, variety_id, place) VALUES ('%s', %d, %s)"
                        .formatted(
                            code, tree.variety(), tree.place() == 0 ? "NULL" : tree.place())));
    database.execute(statements.toArray(String[]::new));
  }

  private Model found() {
    Map<Integer, String> varieties = new TreeMap<>();
    for (String row : database.query("SELECT concat(id, ' ', name) FROM variety")) {
      varieties.put(Integer.valueOf(row.split(" ")[0]), row.split(" ")[1]);
    }
    Map<String, Tree> trees = new TreeMap<>();
    for (String row :
        database.query("SELECT concat(code, ' ', variety_id, ' ', coalesce(place, 0)) FROM tree")) {
      String[] parts = row.split(" ");
      trees.put(parts[0], new Tree(Integer.parseInt(parts[1]), Integer.parseInt(parts[2])));
    }
    return new Model(varieties, trees);
  }

  private SeedRunResult seed(SeedOptions options) {
    return ladder
        .open()
        .seed(
            Optional.of("dev"), options, SeedApproval.given(Optional.empty()), SeedListener.SILENT);
  }

  @ParameterizedTest
  @EnumSource
  void rowsEndWhereTheFilesSayOrNothingIsWritten(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    database.execute(
        "CREATE TABLE variety (id integer NOT NULL PRIMARY KEY, name varchar(20) NOT NULL UNIQUE)",
        "CREATE TABLE tree (code varchar(8) NOT NULL PRIMARY KEY, variety_id integer NOT NULL,"
            + " place integer UNIQUE, FOREIGN KEY (variety_id) REFERENCES variety (id))");
    String settings = ladder.text("ladder.yaml");
    int possible = 0;
    for (int round = 0; round < ROUNDS; round++) {
      boolean delete = random.nextInt(3) > 0;
      Model stands = standing();
      fill(stands);
      Map<Integer, String> varieties = varieties();
      Map<String, Line> trees = lines(varieties, stands);
      write(settings, varieties, trees, delete);
      possible += check(stands, varieties, trees, delete) ? 1 : 0;
    }
    assertThat(possible).as("rounds that end in a change").isGreaterThan(ROUNDS / 4);
  }

  private Map<String, Line> lines(Map<Integer, String> varieties, Model stands) {
    List<String> names = new ArrayList<>(varieties.values());
    if (random.nextInt(4) == 0) {
      names.addAll(stands.varieties().values());
    }
    Map<String, Line> trees = new TreeMap<>();
    List<Integer> places = shuffled(6);
    for (int i = 0; i < 1 + random.nextInt(5); i++) {
      int place = random.nextInt(4) == 0 ? 0 : places.get(i);
      trees.put("t" + random.nextInt(7), new Line(names.get(random.nextInt(names.size())), place));
    }
    return trees;
  }

  private void write(
      String settings, Map<Integer, String> varieties, Map<String, Line> trees, boolean delete) {
    String extra = delete ? "delete" : "keep";
    ladder.file(
        "ladder.yaml",
        settings
            + "seeds: [{ table: tree, extra: %1$s }, { table: variety, extra: %1$s }]\n"
                .formatted(extra));
    StringBuilder rows = new StringBuilder("id,name\n");
    varieties.forEach((id, name) -> rows.append(id).append(',').append(name).append('\n'));
    ladder.file("seeds/variety.csv", rows.toString());
    StringBuilder lines = new StringBuilder("code,variety.name,place\n");
    trees.forEach(
        (code, line) ->
            lines
                .append(code)
                .append(',')
                .append(line.name())
                .append(',')
                .append(line.place() == 0 ? "" : line.place())
                .append('\n'));
    ladder.file("seeds/tree.csv", lines.toString());
  }

  /** Returns whether the files can be followed. */
  private boolean check(
      Model stands, Map<Integer, String> varieties, Map<String, Line> lines, boolean delete) {
    Map<Integer, String> names = new TreeMap<>(delete ? Map.of() : stands.varieties());
    names.putAll(varieties);
    Map<String, Tree> trees = new TreeMap<>(delete ? Map.of() : stands.trees());
    boolean known = true;
    for (Map.Entry<String, Line> line : lines.entrySet()) {
      Set<Integer> ids = new HashSet<>();
      names.forEach(
          (id, name) -> ids.addAll(name.equals(line.getValue().name()) ? Set.of(id) : Set.of()));
      known &= ids.size() == 1;
      int id = ids.isEmpty() ? 0 : ids.iterator().next();
      trees.put(line.getKey(), new Tree(id, line.getValue().place()));
    }
    Model expected = new Model(names, trees);
    String story = stands + " and " + varieties + ", " + lines + ", delete " + delete;
    if (!known || !expected.isPossible()) {
      SeedOptions look = new SeedOptions(List.of(), true, 10);
      assertThatThrownBy(() -> seed(look)).as(story).isInstanceOf(LadderException.class);
      assertThatThrownBy(() -> seed(SeedOptions.ALL)).as(story).isInstanceOf(LadderException.class);
      assertThat(found()).as(story).isEqualTo(stands);
      return false;
    }
    seed(SeedOptions.ALL);
    assertThat(found()).as(story).isEqualTo(expected);
    assertThat(seed(SeedOptions.ALL).isQuiet()).as(story).isTrue();
    return true;
  }
}
