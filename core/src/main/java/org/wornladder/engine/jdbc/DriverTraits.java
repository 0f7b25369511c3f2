package org.wornladder.engine.jdbc;

import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.SQLException;
import org.wornladder.engine.StorageTypes;
import org.wornladder.sql.Quoting;

/**
 * What is known of an engine that its driver describes.
 *
 * @param product its name and version, for people
 * @param undone what a rollback undoes
 * @param tableOptions what stands behind the definitions of the tool's own tables; may be empty
 * @param letters how names without quotes are kept
 */
public record DriverTraits(
    String product,
    Quoting quoting,
    Transactions undone,
    Letters letters,
    DriverTypes types,
    String tableOptions) {
  /** How names without quotes are kept. */
  enum Letters {
    UPPER,
    LOWER,
    AS_WRITTEN
  }

  private static final char STANDARD_QUOTE = '"';

  /** What the standard says, before a driver has said more. */
  static final DriverTraits STANDARD =
      new DriverTraits(
          "",
          new Quoting(STANDARD_QUOTE, Quoting.Backslash.PLAIN),
          Transactions.ROWS,
          Letters.UPPER,
          DriverTypes.STANDARD,
          "");

  /**
   * What the metadata of a connection says.
   *
   * @param tableOptions what stands behind the definitions of the tool's own tables; may be empty
   */
  static DriverTraits of(Connection connection, String tableOptions) throws SQLException {
    DatabaseMetaData metadata = connection.getMetaData();
    return new DriverTraits(
        metadata.getDatabaseProductName() + " " + metadata.getDatabaseProductVersion(),
        new Quoting(quote(metadata), Quoting.Backslash.PLAIN),
        undone(metadata),
        letters(metadata),
        DriverTypes.of(metadata),
        tableOptions);
  }

  /** A blank says that names cannot be quoted (JDBC 4.3, getIdentifierQuoteString). */
  private static char quote(DatabaseMetaData metadata) throws SQLException {
    String quote = metadata.getIdentifierQuoteString();
    return quote == null || quote.isBlank() ? STANDARD_QUOTE : quote.charAt(0);
  }

  private static Letters letters(DatabaseMetaData metadata) throws SQLException {
    if (metadata.storesUpperCaseIdentifiers()) {
      return Letters.UPPER;
    }
    return metadata.storesLowerCaseIdentifiers() ? Letters.LOWER : Letters.AS_WRITTEN;
  }

  private static Transactions undone(DatabaseMetaData metadata) throws SQLException {
    if (!metadata.supportsTransactions()) {
      return Transactions.NOTHING;
    }
    boolean structure =
        metadata.supportsDataDefinitionAndDataManipulationTransactions()
            && !metadata.dataDefinitionCausesTransactionCommit()
            && !metadata.dataDefinitionIgnoredInTransactions();
    return structure ? Transactions.ROWS_AND_STRUCTURE : Transactions.ROWS;
  }

  /** Whether changes of rows can be undone. */
  boolean transactions() {
    return undone != Transactions.NOTHING;
  }

  /** Whether changes of structure can be undone with them. */
  boolean structureInTransactions() {
    return undone == Transactions.ROWS_AND_STRUCTURE;
  }

  /** The same where it was tried what a rollback undoes. */
  DriverTraits with(Transactions tried) {
    return new DriverTraits(product, quoting, tried, letters, types, tableOptions);
  }

  StorageTypes storage() {
    return types.storage(tableOptions.isEmpty() ? "" : " " + tableOptions);
  }
}
