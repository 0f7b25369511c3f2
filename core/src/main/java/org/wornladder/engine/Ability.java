package org.wornladder.engine;

/** What some engines can do and others cannot. */
public enum Ability {
  /** Statements that change the structure are part of a transaction, and undone with it. */
  TRANSACTIONAL_DDL,
  /** A foreign key may be checked at the commit instead of at the statement. */
  DEFERRED_CONSTRAINTS,
  /** An index over some of the rows. */
  PARTIAL_INDEXES,
  /** An index can be built while others write, outside a transaction. */
  CONCURRENT_INDEXES,
  /** A role can be taken on after connecting. */
  ROLES,
  /** Other schemas than the connection's own can be named as managed. */
  SCHEMAS,
  /** A limit on how long a statement waits for a lock of the database. */
  LOCK_TIMEOUT,
  /** A limit on how long a statement runs. */
  STATEMENT_TIMEOUT,
  /** A column can be put at a place among those that are there. */
  COLUMN_POSITIONS,
  /** The server shows how far its replicas are behind. */
  REPLICA_LAG,
  /** A statement can run piece by piece, by a key ({@code in-batches-of}). */
  BATCHES,
  /** What a rung erases can be kept aside. */
  ATTIC,
  /** Transactions end by themselves beyond some time or size, or refuse some places. */
  LIMITED_TRANSACTIONS,
  /** The database computes a fingerprint of its structure, which need not be read then. */
  STRUCTURE_FINGERPRINT
}
