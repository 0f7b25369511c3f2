package org.wornladder.engine.document;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.bson.BsonDocument;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.Against;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.RowChange;
import org.wornladder.SeedCounts;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.SeedOptions.SampleOrder;
import org.wornladder.SeedResult;
import org.wornladder.SeedRunResult;
import org.wornladder.TestLadder;
import org.wornladder.server.DocumentServer;

class DocumentSeedTest {
  private static final Optional<String> DEV = Optional.of("dev");
  private static final String VARIETIES =
      """
      [
        {"code": "B", "name": "Boskoop", "months": [9, 10], "store": {"cold": true, "weeks": 24}},
        {"code": "C", "name": "Cox", "months": [9]}
      ]
      """;

  @TempDir Path root;

  private final DocumentServer database = new DocumentServer();
  private TestLadder ladder;

  @BeforeEach
  void collection() {
    ladder = new TestLadder(root);
    seeds("{ table: variety, key: [code] }");
    ladder.file(
        "rungs/0001-variety.json",
        "{\"up\": {\"create\": \"variety\"}, \"down\": {\"drop\": \"variety\"}}");
    ladder.file("seeds/variety.json", VARIETIES);
  }

  private void seeds(String... entries) {
    ladder.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + database.url()
            + "', disposable: true }\nseeds:\n  - "
            + String.join("\n  - ", entries)
            + "\n");
  }

  private SeedRunResult seed(SeedOptions options) {
    return ladder.open().seed(DEV, options, (planned, environment) -> {}, SeedListener.SILENT);
  }

  private SeedCounts seeded() {
    return seed(SeedOptions.ALL).results().get(0).counts();
  }

  @Test
  void documentsAreAddedUpdatedAndLeft() {
    ladder.apply();
    assertThat(seeded()).isEqualTo(new SeedCounts(2, 0, 0, 0));
    assertThat(seeded()).isEqualTo(new SeedCounts(0, 0, 0, 2));
    assertThat(database.documents("variety").get(0).getDocument("store"))
        .isEqualTo(BsonDocument.parse("{cold: true, weeks: 24}"));
    database.run(
        "{update: 'variety', updates: [{q: {code: 'C'}, u: {$set: {name: 'Kox', note: 'x'}}}]}");
    database.run("{insert: 'variety', documents: [{code: 'Z', name: 'Zari'}]}");
    assertThat(ladder.open().drift(DEV, Against.EXPECTED, false).seeds().differing())
        .extracting(SeedResult::label)
        .containsExactly("variety");
    assertThat(seeded()).isEqualTo(new SeedCounts(0, 1, 0, 1));
    assertThat(database.documents("variety"))
        .hasSize(3)
        .anySatisfy(
            one -> {
              assertThat(one.getString("name").getValue()).isEqualTo("Cox");
              assertThat(one.getString("note").getValue()).isEqualTo("x");
            });
    assertThat(ladder.open().drift(DEV, Against.EXPECTED, false).isClean()).isTrue();
  }

  @Test
  void numbersAreTheSameWhateverTheirType() {
    ladder.apply();
    seeded();
    database.run(
        "{update: 'variety', updates: [{q: {code: 'C'}, u: {$set: {months: [{$numberLong: '9'}]}}}]}");
    database.run(
        "{update: 'variety', updates: [{q: {code: 'B'}, u: {$set: {store: {cold: true, weeks: 24.0}}}}]}");
    assertThat(seeded()).isEqualTo(new SeedCounts(0, 0, 0, 2));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "16.8",
        "0.1",
        "1e-300",
        "1.7976931348623157e308",
        "-0.0",
        "0.5",
        "9007199254740993",
        "{\"$numberDecimal\": \"16.8\"}",
        "{\"$numberDouble\": \"NaN\"}",
        "{\"$numberDouble\": \"-Infinity\"}"
      })
  void anyNumberIsTheSameTheSecondTime(String number) {
    ladder.apply();
    ladder.file(
        "seeds/variety.json", "[{\"code\": " + number + ", \"of\": {\"it\": [" + number + "]}}]");
    assertThat(seeded()).isEqualTo(new SeedCounts(1, 0, 0, 0));
    assertThat(seeded()).isEqualTo(new SeedCounts(0, 0, 0, 1));
    ladder.file("seeds/variety.json", "[{\"code\": " + number + ", \"of\": {\"it\": [16.9]}}]");
    assertThat(seeded()).isEqualTo(new SeedCounts(0, 1, 0, 0));
  }

  @Test
  void extraDocumentsAreDeletedWhereThatIsSaid() {
    seeds("{ table: variety, key: [code], extra: delete }");
    ladder.apply();
    database.run("{insert: 'variety', documents: [{code: 'Z', name: 'Zari'}]}");
    SeedRunResult planned = seed(new SeedOptions(List.of(), true, 5));
    assertThat(planned.results().get(0).changes())
        .extracting(RowChange::kind)
        .containsExactly(RowChange.Kind.ADDED, RowChange.Kind.ADDED, RowChange.Kind.DELETED);
    assertThat(database.documents("variety")).hasSize(1);
    assertThat(seeded()).isEqualTo(new SeedCounts(2, 0, 1, 0));
    assertThat(database.documents("variety")).hasSize(2);
    ladder.file("seeds/variety.json", "[]");
    assertThatThrownBy(this::seeded)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("would empty variety");
  }

  @Test
  void documentsStandInYamlToo() {
    seeds("{ table: variety, key: [code, name] }");
    ladder.delete("seeds/variety.json");
    ladder.file(
        "seeds/variety.yaml",
        "- { code: B, name: Boskoop, months: [9, 10] }\n- code: C\n  name: Cox\n  sour: true\n");
    ladder.apply();
    assertThat(seeded()).isEqualTo(new SeedCounts(2, 0, 0, 0));
    assertThat(database.documents("variety").get(0).getArray("months")).hasSize(2);
    assertThat(database.documents("variety").get(1).getBoolean("sour").getValue()).isTrue();
    assertThat(seeded()).isEqualTo(new SeedCounts(0, 0, 0, 2));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "[{\"code\": \"B\"},~ {\"name\": \"x\"}] | :2 | it has no code",
        "[{\"code\": \"B\"},~~ {\"code\": \"B\"}] | :3 | line 1 has the same key",
        "[{\"code\": \"B\", \"w\": {\"$numberDecimal\": \"heavy\"}}] | :1 | not Extended JSON",
        "[{\"code\": \"B\"},~ 7] | :2 | a row must be an object",
        "[{\"code\": \"B\" | :1 | this is not JSON"
      })
  void whatIsNoDocumentIsRefusedWithItsLineBeforeAnythingIsWritten(
      String text, String place, String words) {
    ladder.apply();
    ladder.file("seeds/variety.json", text.replace("~", "\n"));
    assertThatThrownBy(this::seeded)
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining(words)
        .satisfies(
            e ->
                assertThat(((ProjectException) e).problems().get(0).place().toString())
                    .startsWith("seeds/variety.json" + place));
    assertThat(database.documents("variety")).isEmpty();
  }

  @Test
  void aSeedWithoutItsCollectionAndOtherFormsAreRefused() {
    assertThatThrownBy(this::seeded)
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("there is no collection variety");
    ladder.apply();
    ladder.delete("seeds/variety.json").file("seeds/variety.csv", "code\nB\n");
    seeds("{ table: variety, key: [code] }");
    assertThatThrownBy(this::seeded)
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("takes seeds of JSON and YAML");
    SampleOrder order = new SampleOrder(List.of("variety"), OptionalLong.of(5));
    assertThatThrownBy(() -> seed(new SeedOptions(false, 0, order)))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("there is no seeds/variety.sample.yaml");
    assertThatThrownBy(() -> ladder.open().writeSample(DEV, order, false))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("nothing is guessed");
  }

  private void sample(String more) {
    ladder.file(
        "rungs/0002-bin.json", "{\"up\": {\"create\": \"bin\"}, \"no way down\": \"it stays\"}");
    ladder.file(
        "seeds/bin.sample.yaml",
        """
        rows: 40
        columns:
          number: { count-from: 1 }
          code: { pattern: "##" }
          variety: { from: variety.code }
          kg: { between: [10, 20], decimals: 1 }
          apples: { one-of: [true, false] }
          packed: { map-of: { $date: { value: "2026-09-01T08:00:00Z" } } }
          tags: { list-of: { one-of: [ripe, green] }, count: 1..3 }
          note: { made-up: lorem.word, missing: 50% }
        """
            + more);
  }

  @Test
  void documentsAreMadeUpByASampleFile() {
    sample("");
    seeds(
        "{ table: variety, key: [code] }",
        "{ table: bin, rows: seeds/bin.sample.yaml, key: [number] }");
    ladder.apply();
    // The varieties that bins point to must stand first.
    assertThatThrownBy(this::seeded)
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("variety.code has no value to take");
    seed(new SeedOptions(List.of("variety"), false, 0));
    assertThat(seed(SeedOptions.ALL).results().get(1).counts())
        .isEqualTo(new SeedCounts(40, 0, 0, 0));
    List<BsonDocument> bins = database.documents("bin");
    assertThat(bins)
        .hasSize(40)
        .allSatisfy(
            bin -> {
              assertThat(bin.get("number").isNumber()).isTrue();
              assertThat(bin.getString("code").getValue()).matches("\\d\\d");
              assertThat(bin.getString("variety").getValue()).isIn("B", "C");
              assertThat(bin.get("kg").isNumber()).isTrue();
              assertThat(bin.get("apples").isBoolean()).isTrue();
              assertThat(bin.get("packed").isDateTime()).isTrue();
              assertThat(bin.getArray("tags")).hasSizeBetween(1, 3);
            });
    assertThat(bins).anyMatch(bin -> bin.containsKey("note"));
    assertThat(bins).anyMatch(bin -> !bin.containsKey("note"));
    assertThat(seed(SeedOptions.ALL).results().get(1).counts())
        .isEqualTo(new SeedCounts(0, 0, 0, 40));
    database.run("{delete: 'bin', deletes: [{q: {number: 7}, limit: 0}]}");
    assertThat(ladder.open().drift(DEV, Against.EXPECTED, false).isClean()).isTrue();
  }

  @Test
  void moreDocumentsAreMadeUpWhereTheyAreAskedFor() {
    sample("  above: { earlier: number }\n");
    ladder.apply();
    seeded();
    SampleOrder order = new SampleOrder(List.of("bin"), OptionalLong.of(5));
    seeds("{ table: bin, rows: seeds/bin.sample.yaml, key: [number] }");
    assertThat(seed(new SeedOptions(false, 0, order)).results().get(0).counts())
        .isEqualTo(new SeedCounts(5, 0, 0, 0));
    assertThat(database.documents("bin"))
        .filteredOn(bin -> bin.containsKey("above"))
        .hasSize(4)
        .allMatch(bin -> bin.get("above").isNumber());
  }

  @Test
  void manyDocumentsComeInBatches() {
    StringBuilder text = new StringBuilder("[");
    for (int i = 0; i < 2500; i++) {
      text.append(i == 0 ? "" : ",\n").append("{\"code\": ").append(i).append("}");
    }
    ladder.file("seeds/variety.json", text.append("]").toString());
    ladder.apply();
    assertThat(seeded().added()).isEqualTo(2500);
    database.run("{delete: 'variety', deletes: [{q: {code: {$lt: 10}}, limit: 0}]}");
    assertThat(seeded()).isEqualTo(new SeedCounts(10, 0, 0, 2490));
  }
}
