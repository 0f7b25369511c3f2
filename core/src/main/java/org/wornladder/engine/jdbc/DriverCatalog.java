package org.wornladder.engine.jdbc;

import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * The part of a database's catalogue that a connection is in, as its driver reports it (JDBC 4.3,
 * {@code DatabaseMetaData}).
 *
 * @param catalog empty where the engine has none
 * @param schema likewise
 */
record DriverCatalog(DatabaseMetaData metadata, Optional<String> catalog, Optional<String> schema) {
  private static final String VIEW = "VIEW";
  private static final List<String> NO_TABLES =
      List.of(VIEW, "SYSTEM", "INDEX", "SEQUENCE", "TEMPORARY", "SYNONYM", "ALIAS", "TYPE");

  /** What a row of the catalogue becomes. */
  interface Reading {
    void read(ResultSet row) throws SQLException;
  }

  /** A query of the catalogue. */
  interface Query {
    ResultSet run() throws SQLException;
  }

  static DriverCatalog of(Connection connection) throws SQLException {
    return new DriverCatalog(
        connection.getMetaData(),
        Optional.ofNullable(connection.getCatalog()).filter(name -> !name.isEmpty()),
        Optional.ofNullable(connection.getSchema()).filter(name -> !name.isEmpty()));
  }

  /** Brings a connection back to where it was. */
  void restore(Connection connection) throws SQLException {
    if (schema.isPresent() && !schema.get().equals(connection.getSchema())) {
      connection.setSchema(schema.get());
    }
  }

  private String catalogName() {
    return catalog.orElse(null);
  }

  private String schemaName() {
    return schema.orElse(null);
  }

  /** Goes through all rows of an answer. */
  static void each(Query query, Reading reading) throws SQLException {
    try (ResultSet rows = query.run()) {
      while (rows.next()) {
        reading.read(rows);
      }
    }
  }

  /** A table by its name; case does not count where only one is meant. */
  Optional<String> table(String name) throws SQLException {
    return named(name, false);
  }

  /** A view by its name, likewise. */
  Optional<String> view(String name) throws SQLException {
    return named(name, true);
  }

  private Optional<String> named(String name, boolean view) throws SQLException {
    String plain = name.substring(name.lastIndexOf('.') + 1);
    for (String spelling : spellings(plain)) {
      List<String> found = new ArrayList<>();
      each(
          () -> metadata.getTables(catalogName(), schemaName(), pattern(spelling), null),
          row -> {
            if (row.getString("TABLE_NAME").equals(spelling)
                && (view ? isView(type(row)) : isTable(type(row)))) {
              found.add(spelling);
            }
          });
      if (!found.isEmpty()) {
        return Optional.of(found.get(0));
      }
    }
    return Optional.empty();
  }

  private static List<String> spellings(String name) {
    LinkedHashSet<String> spellings = new LinkedHashSet<>();
    spellings.add(name);
    spellings.add(name.toUpperCase(Locale.ROOT));
    spellings.add(name.toLowerCase(Locale.ROOT));
    return List.copyOf(spellings);
  }

  /** A name as a pattern that matches it alone. */
  private String pattern(String name) throws SQLException {
    String escape = Optional.ofNullable(metadata.getSearchStringEscape()).orElse("");
    return escape.isEmpty()
        ? name
        : name.replace(escape, escape + escape)
            .replace("_", escape + "_")
            .replace("%", escape + "%");
  }

  private static String type(ResultSet row) throws SQLException {
    return Optional.ofNullable(row.getString("TABLE_TYPE")).orElse("").toUpperCase(Locale.ROOT);
  }

  private static boolean isView(String type) {
    return type.endsWith(VIEW) && !type.startsWith("SYSTEM");
  }

  private static boolean isTable(String type) {
    return NO_TABLES.stream().noneMatch(type::contains);
  }

  /** Whether something of this name is there, and is a table that is the engine's own kind. */
  boolean isPlainTable(String name) throws SQLException {
    return table(name).isPresent() && view(name).isEmpty();
  }

  /** The names of all tables, or of all views. */
  List<String> names(boolean views) throws SQLException {
    List<String> names = new ArrayList<>();
    each(
        () -> metadata.getTables(catalogName(), schemaName(), "%", null),
        row -> {
          if (views ? isView(type(row)) : isTable(type(row))) {
            names.add(row.getString("TABLE_NAME"));
          }
        });
    names.sort(null);
    return names;
  }

  /** The columns of all tables and views, in their order. */
  void columns(Reading reading) throws SQLException {
    each(() -> metadata.getColumns(catalogName(), schemaName(), "%", "%"), reading);
  }

  /** The columns of one table, in their order. */
  void columns(String table, Reading reading) throws SQLException {
    String pattern = pattern(table);
    each(
        () -> metadata.getColumns(catalogName(), schemaName(), pattern, "%"),
        row -> {
          if (row.getString("TABLE_NAME").equals(table)) {
            reading.read(row);
          }
        });
  }

  /** The columns of a table's primary key. */
  void primaryKey(String table, Reading reading) throws SQLException {
    each(() -> metadata.getPrimaryKeys(catalogName(), schemaName(), table), reading);
  }

  /** The columns of a table's foreign keys. */
  void foreignKeys(String table, Reading reading) throws SQLException {
    each(() -> metadata.getImportedKeys(catalogName(), schemaName(), table), reading);
  }

  /** The columns of a table's indexes; without statistics, which drivers list among them. */
  void indexes(String table, Reading reading) throws SQLException {
    each(
        () -> metadata.getIndexInfo(catalogName(), schemaName(), table, false, true),
        row -> {
          if (row.getShort("TYPE") != DatabaseMetaData.tableIndexStatistic) {
            reading.read(row);
          }
        });
  }

  /** The functions, then the procedures. */
  void routines(Reading functions, Reading procedures) throws SQLException {
    each(() -> metadata.getFunctions(catalogName(), schemaName(), "%"), functions);
    each(() -> metadata.getProcedures(catalogName(), schemaName(), "%"), procedures);
  }

  /** Whether any table has an index of this name. */
  boolean hasIndex(String name) throws SQLException {
    String plain = name.substring(name.lastIndexOf('.') + 1);
    List<String> found = new ArrayList<>();
    for (String table : names(false)) {
      indexes(
          table,
          row -> {
            if (plain.equalsIgnoreCase(row.getString("INDEX_NAME"))) {
              found.add(table);
            }
          });
    }
    return !found.isEmpty();
  }

  /** Whether a table or view has a column. */
  boolean hasColumn(String table, String column) throws SQLException {
    Optional<String> real = table(table);
    Optional<String> there = real.isPresent() ? real : view(table);
    List<String> found = new ArrayList<>();
    if (there.isPresent()) {
      columns(
          there.get(),
          row -> {
            if (row.getString("COLUMN_NAME").equalsIgnoreCase(column)) {
              found.add(column);
            }
          });
    }
    return !found.isEmpty();
  }
}
