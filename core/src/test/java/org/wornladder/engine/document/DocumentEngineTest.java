package org.wornladder.engine.document;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.bson.BsonDocument;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.AdoptOptions;
import org.wornladder.Against;
import org.wornladder.ApplyOptions;
import org.wornladder.DriftReport;
import org.wornladder.Ladder;
import org.wornladder.LadderException;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.StatementFailedException;
import org.wornladder.Status.State;
import org.wornladder.TestLadder;
import org.wornladder.UnreachableException;
import org.wornladder.change.Difference;
import org.wornladder.change.Risk;
import org.wornladder.project.Problem;
import org.wornladder.schema.Table;
import org.wornladder.server.DocumentServer;

class DocumentEngineTest {
  private static final Optional<String> DEV = Optional.of("dev");

  @TempDir Path root;

  private final DocumentServer database = new DocumentServer();

  private TestLadder ladder() {
    return settings(new TestLadder(root), database, "");
  }

  private static TestLadder settings(TestLadder ladder, DocumentServer database, String more) {
    return ladder.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + database.url()
            + "', disposable: true }\n"
            + more);
  }

  private static TestLadder rung(TestLadder ladder, String name, String up, String down) {
    return ladder.file(
        "rungs/" + name + ".json", "{\n  \"up\": [" + up + "],\n  \"down\": [" + down + "]\n}\n");
  }

  private TestLadder bins() {
    return rung(
        ladder(),
        "0001-bins",
        """
        {"create": "bin"},
        {"createIndexes": "bin",
         "indexes": [{"key": {"code": 1}, "name": "bin_code", "unique": true}]},
        {"insert": "bin", "documents": [{"code": "B-1", "weight": {"$numberDecimal": "312.5"}}]}
        """,
        "{\"drop\": \"bin\"}");
  }

  @Test
  void aRungIsAppliedShownAndTakenBack() {
    TestLadder ladder = bins();
    ladder.apply();
    assertThat(database.documents("bin"))
        .singleElement()
        .satisfies(bin -> assertThat(bin.getDecimal128("weight").toString()).contains("312.5"));
    Table bin = ladder.open().show(DEV).schema().table("bin").orElseThrow();
    assertThat(bin.indexes())
        .singleElement()
        .satisfies(
            index -> {
              assertThat(index.name()).isEqualTo("bin_code");
              assertThat(index.unique()).isTrue();
            });
    assertThat(ladder.open().show(DEV).rowCounts()).containsEntry("bin", 1L);
    assertThat(ladder.open().drift(DEV, Against.EXPECTED, false).isClean()).isTrue();
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(database.everything()).isEmpty();
    assertThat(ladder.open().status(DEV).rungs().get(0).state()).isEqualTo(State.WAITING);
  }

  @Test
  void valuesStandInStringsAndForThemselves() {
    TestLadder ladder = ladder();
    settings(ladder, database, "values: { most: 500, who: 'a \"picker\"', code: '007x' }\n");
    rung(
        ladder,
        "0001-values",
        """
        {"insert": "bin", "documents": [{"most": {"@value": "most"}, "code": {"@value": "code"},
          "by": "for @{who}", "kept": "@@{who}"}]}
        """,
        "{\"drop\": \"bin\"}");
    ladder.apply();
    BsonDocument bin = database.documents("bin").get(0);
    assertThat(bin.getInt32("most").getValue()).isEqualTo(500);
    assertThat(bin.getString("code").getValue()).isEqualTo("007x");
    assertThat(bin.getString("by").getValue()).isEqualTo("for a \"picker\"");
    assertThat(bin.getString("kept").getValue()).isEqualTo("@{who}");
  }

  @Test
  void aSecretStandsNowhereInTheJournal() {
    TestLadder ladder = ladder();
    settings(ladder, database, "values: { word: '${WORD}' }\n");
    rung(
        ladder,
        "0001-secret",
        "{\"insert\": \"account\", \"documents\": [{\"word\": \"@{word}\"}]}",
        "{\"delete\": \"account\", \"deletes\": [{\"q\": {\"word\": \"@{word}\"}, \"limit\": 0}]}");
    Ladder open = ladder.builder().variables(Map.of("WORD", "quince-4711")).build();
    open.apply(DEV, ApplyOptions.ALL, TestLadder.YES, RunListener.SILENT);
    assertThat(database.documents("account").toString()).contains("quince-4711");
    for (String own : List.of("ladder_journal", "ladder_snapshot", "ladder_lock")) {
      assertThat(database.documents(own)).isNotEmpty();
      assertThat(database.documents(own).toString()).doesNotContain("quince-4711");
    }
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "{\"up\": [ {\"create\": \"bin\" ] } | 1:27 | this is not JSON",
        "[] | 1:1 | a rung of commands is a JSON object",
        "{\"up\": []} | 1:8 | the way up is empty",
        "{\"upp\": [{\"create\": \"bin\"}]} | 1:2 | unknown key 'upp'",
        "{\"up\": \"create\"} | 1:8 | up holds no commands",
        "{\"about\": 3, \"up\": {\"create\": \"b\"}} | 1:11 | about is a text",
        "{\"up\": {\"create\": \"b\"}} {} | 1:25 | something stands behind the object",
        "{\"about\": \"bins\"} | | there is no way up",
        "{\"up\": {\"create\": \"b\"}, \"up\": {\"create\": \"c\"}} | 1:29 | Duplicate field 'up'",
        "{\"up\": {\"create\": \"b\"}, \"accepts\": \"erases\"} | 1:25 | accepts gives no reason"
      })
  void whatIsNoRungIsRefusedWithItsPlace(String text, String place, String words) {
    TestLadder ladder = ladder().file("rungs/0001-bad.json", text);
    assertThatThrownBy(ladder::open)
        .isInstanceOf(ProjectException.class)
        .satisfies(
            e ->
                assertThat(((ProjectException) e).problems())
                    .anySatisfy(
                        problem -> {
                          assertThat(problem.message()).contains(words);
                          assertThat(problem.place().toString())
                              .isEqualTo(
                                  "rungs/0001-bad.json" + (place == null ? "" : ":" + place));
                        }));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "[1] | a command must be a JSON object",
        "[{}] | this command is empty",
        "[{\"create\": \"bin\", \"$db\": \"other\"}] | names a database of its own",
        "[{\"dropDatabase\": 1}] | takes the journal with it",
        "[{\"startSession\": 1}] | is about the session",
        "[{\"insert\": \"@{who}\"}] | unknown value 'who'"
      })
  void whatIsNoCommandOfARungIsRefusedBeforeAnythingRuns(String up, String words) {
    TestLadder ladder = ladder().file("rungs/0001-bad.json", "{\"up\": " + up + "}");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining(words);
    assertThat(database.everything()).isEmpty();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "{\"$oid\": \"12\"}",
        "{\"$oid\": 12}",
        "{\"$date\": \"yesterday\"}",
        "{\"$numberInt\": \"many\"}",
        "{\"$numberLong\": \"99999999999999999999\"}",
        "{\"$numberDouble\": \"1,5\"}",
        "{\"$numberDecimal\": \"abc\"}",
        "{\"$binary\": {\"base64\": \"*\", \"subType\": \"00\"}}",
        "{\"$uuid\": \"12\"}",
        "1e400",
        "[{\"b\": -1e400}, {\"$numberDouble\": \"Infinity\"}]",
        "123456789012345678901234567890",
        "{\"$timestamp\": {\"t\": \"x\", \"i\": 1}}",
        "{\"$regularExpression\": {\"pattern\": 1}}"
      })
  void aValueThatIsNotOfItsTypeIsFoundByCheck(String value) {
    TestLadder ladder =
        rung(
            ladder(),
            "0001-bin",
            "{\"create\": \"bin\"},\n    {\"insert\": \"bin\", \"documents\": [{\"a\": "
                + value
                + "}]}",
            "{\"drop\": \"bin\"}");
    assertThat(Ladder.check(root).problems())
        .filteredOn(Problem::isError)
        .singleElement()
        .satisfies(
            problem -> {
              assertThat(problem.message()).doesNotContain("java.lang.Ill");
              assertThat(problem.message()).startsWith("this is not Extended JSON: ");
              assertThat(problem.place().toString()).isEqualTo("rungs/0001-bin.json:3:5");
            });
    assertThatThrownBy(ladder::apply).isInstanceOf(ProjectException.class);
    assertThat(database.everything()).isEmpty();
  }

  @Test
  void aNumberThatSaysThatItIsInfiniteIs() {
    TestLadder ladder =
        rung(
            ladder(),
            "0001-bin",
            "{\"insert\": \"bin\", \"documents\": [{\"a\": {\"$numberDouble\": \"Infinity\"}}]}",
            "{\"drop\": \"bin\"}");
    ladder.apply();
    assertThat(database.documents("bin").get(0).getDouble("a").getValue()).isInfinite();
  }

  @Test
  void anEditorsMarkInFrontIsNoPartOfTheFile() {
    TestLadder ladder = bins();
    ladder.file("rungs/0001-bins.json", "\uFEFF" + ladder.text("rungs/0001-bins.json"));
    ladder.file("seeds/bin.json", "\uFEFF[{\"code\": \"B-7\"}]");
    settings(ladder, database, "seeds: [{ table: bin, key: [code] }]\n");
    ladder.apply();
    ladder.open().seed(DEV, SeedOptions.ALL, (planned, environment) -> {}, SeedListener.SILENT);
    assertThat(database.documents("bin")).hasSize(2);
  }

  @Test
  void aRungOfSqlIsNoneForADocumentDatabase() {
    TestLadder ladder = ladder().rung("0001-bin", "CREATE TABLE bin (id int);", "DROP TABLE bin;");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("this is not JSON");
  }

  @Test
  void aCommandThatFailsLeavesARungThatGoesOn() {
    TestLadder ladder = bins();
    rung(
        ladder,
        "0002-again",
        """
        {"create": "crate"},
        {"insert": "bin", "documents": [{"code": "B-1"}]},
        {"create": "shelf"}
        """,
        "{\"drop\": \"crate\"}, {\"drop\": \"shelf\"}");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(StatementFailedException.class)
        .hasMessageContaining("document 1 of the command")
        .hasMessageContaining("duplicate key");
    assertThat(ladder.open().status(DEV).rungs().get(1).state()).isEqualTo(State.STUCK);
    assertThat(database.everything()).containsOnlyKeys("bin", "crate");
    database.run("{delete: 'bin', deletes: [{q: {}, limit: 0}]}");
    ladder.apply();
    assertThat(database.everything()).containsOnlyKeys("bin", "crate", "shelf");
    assertThat(database.documents("bin")).hasSize(1);
  }

  @Test
  void anEditedRungIsRefusedAndLayoutIsNone() {
    TestLadder ladder = bins();
    ladder.apply();
    String text = ladder.text("rungs/0001-bins.json");
    ladder.file("rungs/0001-bins.json", text.replace(", ", ",\n      "));
    ladder.apply();
    ladder.file("rungs/0001-bins.json", text.replace("B-1", "B-2"));
    assertThatThrownBy(ladder::apply).isInstanceOf(RefusedException.class);
    ladder.delete("rungs/0001-bins.json");
    assertThat(ladder.open().status(DEV).rungs().get(0).state()).isEqualTo(State.ABSENT);
    ladder
        .open()
        .rollback(
            DEV,
            new RollbackOptions(new RollbackOptions.Absent(), true, false),
            TestLadder.YES,
            RunListener.SILENT);
    assertThat(database.everything()).isEmpty();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{update: 'ladder_journal', updates: [{q: {_id: 2}, u: {$set: {host: 'x'}}}]}",
        "{delete: 'ladder_journal', deletes: [{q: {_id: 3}, limit: 1}]}",
        "{delete: 'ladder_journal', deletes: [{q: {_id: {$gt: 5}}, limit: 0}]}"
      })
  void atamperedJournalIsFound(String command) {
    TestLadder ladder = bins();
    ladder.apply();
    database.run(command);
    assertThat(ladder.open().history(DEV).history().broken()).isPresent();
    rung(ladder, "0002-crate", "{\"create\": \"crate\"}", "{\"drop\": \"crate\"}");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("chain is broken");
    assertThat(database.everything()).containsOnlyKeys("bin");
  }

  @Test
  void twentyAtOnceApplyEachRungOnce() throws Exception {
    TestLadder ladder = bins();
    rung(ladder, "0002-crate", "{\"create\": \"crate\"}", "{\"drop\": \"crate\"}");
    assertThat(ladder.applyAtOnce(20)).isEqualTo(2);
    assertThat(database.documents("bin")).hasSize(1);
    assertThat(ladder.open().history(DEV).history().broken()).isEmpty();
  }

  @Test
  void driftIsFoundMendedAndMadeARung() {
    TestLadder ladder = bins();
    ladder.apply();
    database.run("{createIndexes: 'bin', indexes: [{key: {weight: 1}, name: 'bin_weight'}]}");
    database.run("{create: 'crate'}");
    DriftReport drift = ladder.open().drift(DEV, Against.EXPECTED, false);
    assertThat(drift.structure())
        .extracting(Difference::description)
        .containsExactlyInAnyOrder("index bin.bin_weight", "collection crate");
    String script = ladder.open().mendScript(DEV, Against.EXPECTED, false).script();
    assertThat(script).contains("{\"drop\": \"crate\"}", "{\"dropIndexes\": \"bin\"");
    ladder.open().driftAsRung(DEV, "weights", TestLadder.YES, RunListener.SILENT);
    assertThat(ladder.text("rungs/0002-weights.json")).contains("{\"create\": \"crate\"}");
    assertThat(ladder.open().drift(DEV, Against.EXPECTED, false).isClean()).isTrue();
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(database.everything()).containsOnlyKeys("bin");
    ladder.apply();
    assertThat(database.everything()).containsOnlyKeys("bin", "crate");
  }

  @Test
  void aDatabaseThatStandsIsAdopted() {
    database.run("{create: 'bin'}");
    database.run("{createIndexes: 'bin', indexes: [{key: {code: -1}, name: 'bin_code'}]}");
    TestLadder ladder = ladder();
    ladder
        .open()
        .adopt(
            DEV,
            new AdoptOptions(List.of(), List.of(), List.of()),
            TestLadder.YES,
            RunListener.SILENT);
    assertThat(ladder.text("rungs/0001-adopted-structure.json"))
        .contains("{\"create\": \"bin\"}", "\"remarks\"");
    assertThat(ladder.open().drift(DEV, Against.EXPECTED, false).isClean()).isTrue();
    DocumentServer other = new DocumentServer();
    settings(ladder, other, "").apply();
    assertThat(other.everything().keySet()).containsExactly("bin");
    assertThat(other.everything().get("bin").toString()).contains("\"code\": -1");
  }

  @Test
  void risksAreReadOffCommands() {
    TestLadder ladder = bins();
    ladder.apply();
    rung(
        ladder,
        "0002-risky",
        """
        {"drop": "bin"}, {"delete": "bin", "deletes": [{"q": {}, "limit": 0}]},
        {"collMod": "bin", "validator": {"code": {"$exists": true}}},
        {"createIndexes": "bin", "indexes": [{"key": {"a": 1}, "name": "a", "unique": true}]}
        """,
        "");
    assertThat(ladder.open().preview(DEV, ApplyOptions.ALL).risks())
        .extracting(found -> found.risk().kind())
        .contains(Risk.Kind.ERASES, Risk.Kind.BREAKS_OLD_CODE, Risk.Kind.MAY_FAIL);
  }

  @Test
  void aServerThatDoesNotAnswerIsSaid() {
    TestLadder ladder =
        ladder()
            .file(
                "ladder.yaml",
                "name: hollowfield\nenvironments:\n  dev: { url:"
                    + " 'mongodb://127.0.0.1:1/harvest?serverSelectionTimeoutMS=200' }\n");
    assertThatThrownBy(() -> ladder.open().status(DEV))
        .isInstanceOf(UnreachableException.class)
        .hasMessageContaining("the server cannot be reached");
    ladder.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: 'mongodb://127.0.0.1:"
            + DocumentServer.port()
            + "' }\n");
    assertThatThrownBy(() -> ladder.open().status(DEV))
        .isInstanceOf(LadderException.class)
        .hasMessageContaining("the url names no database");
  }

  @Test
  void aCollectionGetsAnotherName() {
    TestLadder ladder = bins();
    rung(
        ladder,
        "0002-rename",
        "{\"renameCollection\": \"bin\", \"to\": \"crate\"}",
        "{\"renameCollection\": \"crate\", \"to\": \"bin\"}");
    ladder.apply();
    assertThat(database.everything()).containsOnlyKeys("crate");
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(database.everything()).containsOnlyKeys("bin");
  }

  @Test
  void aDocumentOverTheSizeLimitIsAFailureWithItsPlace() {
    TestLadder ladder = bins();
    rung(
        ladder,
        "0002-large",
        "{\"insert\": \"bin\", \"documents\": [{\"code\": \"" + "x".repeat(17 << 20) + "\"}]}",
        "");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(StatementFailedException.class)
        .satisfies(
            e ->
                assertThat(((LadderException) e).where().orElse(""))
                    .startsWith("rungs/0002-large.json:2:10"));
    assertThat(database.documents("bin")).hasSize(1);
  }

  @Test
  void settingsOfDriversHaveNoEffect() {
    TestLadder ladder = bins();
    ladder.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + database.url()
            + "', driver: x.Y }\n");
    assertThat(Ladder.check(root).problems())
        .anyMatch(problem -> problem.message().equals("driver has no effect on document"));
  }

  @Test
  void whatNeedsSqlIsRefused() {
    TestLadder ladder = bins();
    ladder.apply();
    assertThatThrownBy(() -> ladder.open().captureCallers(DEV))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("needs SQL");
  }
}
