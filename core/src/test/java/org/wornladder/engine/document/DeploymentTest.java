package org.wornladder.engine.document;

import static org.assertj.core.api.Assertions.assertThat;

import org.bson.BsonDocument;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What follows from what servers say of themselves, and what is asked of them. */
class DeploymentTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "{setName: 'rs0', logicalSessionTimeoutMinutes: 30, maxWireVersion: 21} | true",
        "{setName: 'rs0', logicalSessionTimeoutMinutes: 30, maxWireVersion: 9} | true",
        "{setName: 'rs0', logicalSessionTimeoutMinutes: 30, maxWireVersion: 8} | false",
        "{msg: 'isdbgrid', logicalSessionTimeoutMinutes: 30, maxWireVersion: 21} | true",
        "{setName: 'rs0', maxWireVersion: 21} | false",
        "{logicalSessionTimeoutMinutes: 30, maxWireVersion: 21} | false",
        "{setName: 'rs0', logicalSessionTimeoutMinutes: 30} | false",
        "{} | false"
      })
  void transactionsAreThoseOfReplicaSetsAndShardedClusters(String hello, boolean has) {
    assertThat(new Deployment(BsonDocument.parse(hello)).hasTransactions()).isEqualTo(has);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "{insert: 'bin', documents: []} | {\"w\": \"majority\"}",
        "{collMod: 'bin'} | {\"w\": \"majority\"}",
        "{createUser: 'ines', pwd: 'x', roles: []} | {\"w\": \"majority\"}",
        "{aggregate: 'bin', pipeline: [{$match: {}}, {$merge: 'crate'}]} | {\"w\": \"majority\"}",
        "{aggregate: 'bin', pipeline: [{$out: 'crate'}]} | {\"w\": \"majority\"}",
        "{update: 'bin', updates: [], writeConcern: {w: 1}} | {\"w\": 1}",
        "{aggregate: 'bin', pipeline: [{$match: {}}]} | none",
        "{aggregate: 'bin', pipeline: []} | none",
        "{aggregate: 'bin', pipeline: 'broken'} | none",
        "{ping: 1} | none",
        "{frobnicate: 1} | none"
      })
  void mostServersAreToHaveWhatACommandWrites(String command, String concern) {
    BsonDocument sent = WriteConcerns.onMostServers(BsonDocument.parse(command));
    String asked =
        sent.containsKey("writeConcern") ? sent.getDocument("writeConcern").toJson() : "none";
    assertThat(asked).isEqualTo(concern);
  }
}
