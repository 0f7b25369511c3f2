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
 * @param transactions whether changes of rows can be undone
 * @param structureInTransactions whether changes of structure are part of transactions
 * @param letters how names without quotes are kept
 */
public record DriverTraits(
    String product,
    Quoting quoting,
    boolean transactions,
    boolean structureInTransactions,
    Letters letters,
    DriverTypes types) {
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
          true,
          false,
          Letters.UPPER,
          DriverTypes.STANDARD);

  /** What the metadata of a connection says. */
  static DriverTraits of(Connection connection) throws SQLException {
    DatabaseMetaData metadata = connection.getMetaData();
    boolean transactions = metadata.supportsTransactions();
    return new DriverTraits(
        metadata.getDatabaseProductName() + " " + metadata.getDatabaseProductVersion(),
        new Quoting(quote(metadata), Quoting.Backslash.PLAIN),
        transactions,
        transactions
            && metadata.supportsDataDefinitionAndDataManipulationTransactions()
            && !metadata.dataDefinitionCausesTransactionCommit()
            && !metadata.dataDefinitionIgnoredInTransactions(),
        letters(metadata),
        DriverTypes.of(metadata));
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

  /** The same where it was tried whether changes of structure are part of transactions. */
  DriverTraits withStructureInTransactions(boolean tried) {
    return new DriverTraits(product, quoting, transactions, tried, letters, types);
  }

  StorageTypes storage() {
    return types.storage();
  }
}
