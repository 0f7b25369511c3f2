package org.wornladder.engine.document;

import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonString;

/**
 * What the servers of a deployment say of themselves.
 *
 * @param hello the reply to the command {@code hello}; empty if the server does not know it
 */
record Deployment(BsonDocument hello) {
  /** The version of the protocol from which collections come into being in transactions: 4.4's. */
  private static final int WITH_TRANSACTIONS = 9;

  private static final BsonInt32 NONE = new BsonInt32(0);

  /**
   * Whether several commands can be one transaction: on replica sets and sharded clusters, not on a
   * server by itself (the manual's "Transactions").
   */
  boolean hasTransactions() {
    boolean severalServers =
        hello.containsKey("setName")
            || hello.getString("msg", new BsonString("")).getValue().equals("isdbgrid");
    return severalServers
        && hello.containsKey("logicalSessionTimeoutMinutes")
        && hello.getNumber("maxWireVersion", NONE).intValue() >= WITH_TRANSACTIONS;
  }
}
