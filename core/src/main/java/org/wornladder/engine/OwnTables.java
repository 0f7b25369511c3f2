package org.wornladder.engine;

import java.sql.SQLException;
import java.util.List;
import java.util.SortedMap;

/**
 * The tool's own tables in one database: their rows are numbers and texts, none of them null. Rows
 * of the open transaction are added through {@link Session#insert}.
 */
public interface OwnTables {
  /** The names of a table's columns, in lower case; none where only rows would say them. */
  List<String> columns(String table) throws SQLException;

  /** Makes a table, which is not there. */
  void create(OwnTable table) throws SQLException;

  /** The rows that a query asks for. */
  List<OwnRow> rows(OwnQuery query) throws SQLException;

  /**
   * Adds a row at once: what waits for the end of a transaction would be undone with it.
   *
   * @param values numbers and texts by column
   */
  void insertNow(String table, SortedMap<String, Object> values) throws SQLException;

  /**
   * Changes rows in the open transaction; it may reach the database only with what follows it.
   *
   * @param values as for {@link #insertNow}
   */
  void amend(String table, SortedMap<String, Object> values, OwnQuery.Filter where)
      throws SQLException;

  /** Deletes rows in the open transaction. */
  void delete(String table, OwnQuery.Filter where) throws SQLException;
}
