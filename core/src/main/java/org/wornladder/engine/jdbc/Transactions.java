package org.wornladder.engine.jdbc;

/** What a rollback undoes. */
enum Transactions {
  NOTHING,
  ROWS,
  ROWS_AND_STRUCTURE
}
