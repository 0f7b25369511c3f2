package org.wornladder.engine.document;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.bson.BsonDocument;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.ApplyOptions;
import org.wornladder.LadderException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.StatementFailedException;
import org.wornladder.Status.State;
import org.wornladder.TestLadder;
import org.wornladder.UnreachableException;
import org.wornladder.server.DocumentProxy;
import org.wornladder.server.DocumentServer;
import org.wornladder.server.EmulatedReplicaSet;

/** Rungs on a deployment that has transactions, as a replica set has. */
class DocumentTransactionTest {
  private static final Optional<String> DEV = Optional.of("dev");

  @TempDir Path root;

  private final DocumentServer database = new DocumentServer();
  private final EmulatedReplicaSet replicaSet = new EmulatedReplicaSet(DocumentServer.port());
  private DocumentProxy proxy;

  @BeforeEach
  void start() throws IOException {
    proxy = DocumentProxy.of(DocumentServer.port(), replicaSet);
  }

  @AfterEach
  void stop() throws IOException {
    proxy.close();
    replicaSet.close();
  }

  private TestLadder ladder() {
    TestLadder ladder =
        new TestLadder(root)
            .file(
                "rungs/0001-bin.json",
                """
                {
                  "up": [
                    {"create": "bin"},
                    {"createIndexes": "bin",
                     "indexes": [{"key": {"code": 1}, "name": "bin_code", "unique": true}]},
                    {"insert": "bin", "documents": [{"code": "B-1"}, {"code": "B-2"}]}
                  ],
                  "down": [
                    {"delete": "bin", "deletes": [{"q": {}, "limit": 0}]},
                    {"drop": "bin"}
                  ]
                }
                """);
    settings(ladder);
    return ladder;
  }

  /** A rung that writes documents alone, each time others. */
  private static TestLadder crates(TestLadder ladder, String more, String last) {
    return ladder.file(
        "rungs/0002-crates.json",
        """
        {%s
          "up": [
            {"insert": "crate", "documents": [{"of": "B-1"}, {"of": "B-2"}]},
            {"update": "bin", "updates": [{"q": {}, "u": {"$inc": {"crates": 1}}, "multi": true}]},
            {"insert": "bin", "documents": [{"code": "%s"}]}
          ],
          "down": [
            {"delete": "bin", "deletes": [{"q": {"code": "%s"}, "limit": 0}]},
            {"update": "bin", "updates": [{"q": {}, "u": {"$inc": {"crates": -1}}, "multi": true}]},
            {"delete": "crate", "deletes": [{"q": {}, "limit": 0}]}
          ]
        }
        """
            .formatted(more, last, last));
  }

  private void settings(TestLadder ladder) {
    settings(ladder, database.url(proxy.port()));
  }

  private static void settings(TestLadder ladder, String url) {
    ladder.file("ladder.yaml", "name: hollowfield\nenvironments:\n  dev: { url: '" + url + "' }\n");
  }

  private State state(TestLadder ladder, int rung) {
    return ladder.open().status(DEV).rungs().get(rung - 1).state();
  }

  private long crateCount(String code) {
    return database.documents("bin").stream()
        .filter(bin -> bin.getString("code").getValue().equals(code))
        .findFirst()
        .orElseThrow()
        .getNumber("crates")
        .longValue();
  }

  @Test
  void documentsAreWrittenWithTheEntriesThatSaySo() {
    TestLadder ladder = crates(ladder(), "", "B-3");
    ladder.apply();
    assertThat(crateCount("B-1")).isEqualTo(1);
    List<BsonDocument> commits = proxy.commands("commitTransaction");
    // The insertion of the first rung with its entry, and the whole of the second.
    assertThat(commits).hasSize(2);
    assertThat(proxy.commands("insert"))
        .filteredOn(command -> !command.getString("insert").getValue().equals("ladder_lock"))
        .filteredOn(command -> command.containsKey("autocommit"))
        .extracting(command -> command.getString("insert").getValue())
        .containsExactly("bin", "ladder_journal", "crate", "bin", "ladder_journal");
    ladder.rollback(new RollbackOptions.To(0));
    assertThat(database.everything().get("crate").toString()).contains("0 documents");
    assertThat(database.everything()).doesNotContainKey("bin");
    assertThat(ladder.open().history(DEV).history().broken()).isEmpty();
  }

  @Test
  void mostServersHaveWhatIsNotPartOfATransaction() {
    ladder().apply();
    for (String alone : List.of("create", "createIndexes")) {
      assertThat(proxy.commands(alone))
          .filteredOn(command -> command.getString(alone).getValue().equals("bin"))
          .singleElement()
          .satisfies(
              command ->
                  assertThat(command.getDocument("writeConcern").toJson())
                      .isEqualTo("{\"w\": \"majority\"}"));
    }
    assertThat(proxy.commands("commitTransaction"))
        .singleElement()
        .satisfies(
            command ->
                assertThat(command.getDocument("writeConcern").toJson()).contains("majority"));
  }

  @Test
  void ofDocumentsThatCannotAllBeWrittenNothingIsLeft() {
    TestLadder ladder = crates(ladder(), "", "B-2");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(StatementFailedException.class)
        .hasMessageContaining("duplicate key")
        .satisfies(
            e ->
                assertThat(((LadderException) e).where().orElse(""))
                    .startsWith("rungs/0002-crates.json:5:"));
    assertThat(state(ladder, 2)).isEqualTo(State.FAILED);
    assertThat(database.everything()).doesNotContainKey("crate");
    assertThat(database.documents("bin").get(0)).doesNotContainKey("crates");
    crates(ladder, "", "B-3").apply();
    assertThat(database.documents("crate")).hasSize(2);
    assertThat(ladder.open().history(DEV).history().broken()).isEmpty();
  }

  @Test
  void whatOthersHoldIsTriedAgain() {
    TestLadder ladder = ladder();
    ladder.apply();
    crates(ladder, "", "B-3");
    replicaSet.refuse(1, 112, "Caused by :: Write conflict", List.of("TransientTransactionError"));
    assertThatThrownBy(ladder::apply).hasMessageContaining("Write conflict");
    assertThat(state(ladder, 2)).isEqualTo(State.FAILED);
    replicaSet.refuse(2, 112, "Caused by :: Write conflict", List.of("TransientTransactionError"));
    ladder
        .builder()
        .retries(2)
        .build()
        .apply(DEV, ApplyOptions.ALL, TestLadder.YES, RunListener.SILENT);
    assertThat(state(ladder, 2)).isEqualTo(State.IN_PLACE);
    assertThat(database.documents("crate")).hasSize(2);
  }

  @Test
  void aCommitOfWhichNothingIsKnownIsNotSaidToHaveFailed() {
    TestLadder ladder = ladder();
    ladder.apply();
    crates(ladder, "", "B-3");
    replicaSet.commitUnheard(true);
    assertThatThrownBy(ladder::apply).isInstanceOf(UnreachableException.class);
    replicaSet.commitUnheard(false);
    assertThat(state(ladder, 2)).isEqualTo(State.IN_PLACE);
    ladder.apply();
    assertThat(database.documents("crate")).hasSize(2);
    assertThat(ladder.open().history(DEV).history().broken()).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({"257", "263", "290"})
  void whatNoTransactionHoldsRunsOutsideOfOne(int code) {
    TestLadder ladder = ladder();
    ladder.apply();
    crates(ladder, "", "B-3");
    replicaSet.refuse(Integer.MAX_VALUE, code, "not in a transaction", List.of());
    assertThatThrownBy(ladder::apply)
        .hasMessageContaining("\"run\": \"outside-transaction\" in the rung runs it without one");
    assertThat(database.everything()).containsOnlyKeys("bin");
    crates(ladder, "\"run\": \"outside-transaction\",", "B-3").apply();
    assertThat(state(ladder, 2)).isEqualTo(State.IN_PLACE);
    assertThat(crateCount("B-1")).isEqualTo(1);
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(database.documents("bin")).hasSize(2);
  }

  @Test
  void aCommandThatSaysItselfWhereItMustBeRunsByItself() {
    TestLadder ladder =
        ladder()
            .file(
                "rungs/0002-crates.json",
                """
                {"up": {"insert": "crate", "documents": [{"of": "B-1"}], "writeConcern": {"w": 1}},
                 "down": {"drop": "crate"}}
                """);
    ladder.apply();
    assertThat(proxy.commands("insert"))
        .filteredOn(command -> command.getString("insert").getValue().equals("crate"))
        .singleElement()
        .satisfies(
            command -> {
              assertThat(command).doesNotContainKey("autocommit");
              assertThat(command.getDocument("writeConcern").toJson()).isEqualTo("{\"w\": 1}");
            });
  }

  /** What was begun one by one goes on so, whatever the deployment is by then. */
  @Test
  void aRungThatWasBegunWithoutTransactionsDoesNotBeginAnew() throws IOException {
    TestLadder ladder = crates(ladder(), "", "B-2");
    try (DocumentProxy single = DocumentProxy.of(DocumentServer.port())) {
      settings(ladder, database.url(single.port()));
      assertThatThrownBy(ladder::apply).hasMessageContaining("duplicate key");
    }
    settings(ladder);
    assertThat(state(ladder, 2)).isEqualTo(State.STUCK);
    database.run("{delete: 'bin', deletes: [{q: {code: 'B-2'}, limit: 0}]}");
    ladder.apply();
    assertThat(database.documents("crate")).hasSize(2);
    assertThat(crateCount("B-1")).isEqualTo(1);
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void afterACutAtAnyCommandDocumentsAreWrittenOnceAndNothingIsInDoubt(boolean executed) {
    TestLadder ladder = crates(ladder(), "", "B-3");
    String plain = database.url(proxy.port());
    DocumentCuts cuts = new DocumentCuts(ladder, database, proxy, plain, executed);
    assertThat(cuts.everywhere()).isGreaterThan(30);
  }
}
