package org.wornladder.engine.jdbc;

import java.sql.DatabaseMetaData;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Facts;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.NameList;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.OtherObject;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;

/**
 * Reads the part of a structure that a driver's metadata reports: tables with columns, keys and
 * indexes; views and routines by name. Three questions a table, since the interface has no others.
 */
final class DriverStructure {
  /** Stands for a definition that the driver does not tell. */
  private static final String BY_NAME = "known by name";

  /** Names that engines invent, some of them anew each time a database is opened. */
  private static final Pattern INVENTED = Pattern.compile("(SYS|SQL)[A-Z_]*[-_0-9a-f]{5,}");

  private static final String UNNAMED = "unnamed ";

  private final DriverCatalog catalog;
  private final DriverTraits traits;
  private final List<String> without;
  private final Map<String, List<Column>> columns = new HashMap<>();

  DriverStructure(DriverCatalog catalog, DriverTraits traits, List<String> without) {
    this.catalog = catalog;
    this.traits = traits;
    this.without = without;
  }

  Schema read() throws SQLException {
    catalog.columns(this::column);
    List<Table> tables = new ArrayList<>();
    for (String name : catalog.names(false)) {
      if (!without.contains(name)) {
        tables.add(table(name));
      }
    }
    List<DatabaseObject> objects = new ArrayList<>();
    catalog.names(true).forEach(name -> objects.add(named(Kind.VIEW, name)));
    routines(objects);
    return new Schema(tables, objects);
  }

  /** One table, by its name as the catalogue has it. */
  Table read(String name) throws SQLException {
    catalog.columns(name, this::column);
    return table(name);
  }

  /** Something that is there, and of which no more is known. */
  private static DatabaseObject named(Kind kind, String name) {
    return new OtherObject(
        ObjectId.of(kind, name),
        BY_NAME,
        Map.of(OtherObject.DROPPED_AS, kind.name() + " " + name),
        List.of());
  }

  private void routines(List<DatabaseObject> objects) throws SQLException {
    TreeSet<String> functions = new TreeSet<>();
    TreeSet<String> procedures = new TreeSet<>();
    catalog.routines(
        row -> functions.add(row.getString("FUNCTION_NAME")),
        row -> procedures.add(row.getString("PROCEDURE_NAME")));
    procedures.removeAll(functions);
    functions.forEach(name -> objects.add(named(Kind.FUNCTION, name)));
    procedures.forEach(name -> objects.add(named(Kind.PROCEDURE, name)));
  }

  private void column(ResultSet row) throws SQLException {
    String table = row.getString("TABLE_NAME");
    String name = row.getString("COLUMN_NAME");
    String type =
        traits
            .types()
            .written(
                row.getString("TYPE_NAME"),
                row.getInt("DATA_TYPE"),
                row.getLong("COLUMN_SIZE"),
                row.getInt("DECIMAL_DIGITS"));
    boolean nullable = row.getInt("NULLABLE") != DatabaseMetaData.columnNoNulls;
    Optional<String> value = Optional.ofNullable(row.getString("COLUMN_DEF")).map(String::strip);
    Map<String, String> more = new TreeMap<>();
    if ("YES".equals(row.getString("IS_AUTOINCREMENT"))) {
      more.put(Column.IDENTITY, "by default");
      value = Optional.empty();
    } else if ("YES".equals(row.getString("IS_GENERATEDCOLUMN"))) {
      more.put(Column.GENERATED, value.orElse("?"));
      value = Optional.empty();
    }
    Optional.ofNullable(row.getString("REMARKS"))
        .filter(words -> !words.isEmpty())
        .ifPresent(words -> more.put(Facts.COMMENT, words));
    columns
        .computeIfAbsent(table, key -> new ArrayList<>())
        .add(
            new Column(
                name, type, nullable, value.filter(one -> !one.equalsIgnoreCase("NULL")), more));
  }

  private Table table(String name) throws SQLException {
    Optional<PrimaryKey> key = primaryKey(name);
    List<ForeignKey> foreignKeys = foreignKeys(name);
    return new Table(
        ObjectId.of(Kind.TABLE, name),
        columns.getOrDefault(name, List.of()),
        key,
        foreignKeys,
        List.of(),
        indexes(name, key, foreignKeys),
        Map.of(),
        "",
        List.of());
  }

  private Optional<PrimaryKey> primaryKey(String table) throws SQLException {
    TreeMap<Integer, String> parts = new TreeMap<>();
    List<String> names = new ArrayList<>();
    catalog.primaryKey(
        table,
        row -> {
          parts.put(row.getInt("KEY_SEQ"), row.getString("COLUMN_NAME"));
          names.add(Optional.ofNullable(row.getString("PK_NAME")).orElse(""));
        });
    if (parts.isEmpty()) {
      return Optional.empty();
    }
    Optional<String> chosen = chosen(names.get(0));
    Map<String, String> more =
        chosen.isPresent() || names.get(0).isEmpty()
            ? Map.of()
            : Map.of(Facts.GENERATED_NAME, names.get(0));
    return Optional.of(new PrimaryKey(List.copyOf(parts.values()), chosen, more));
  }

  /** A name, if it does not look like one that an engine invents. */
  private static Optional<String> chosen(String name) {
    return Optional.of(name).filter(one -> !one.isEmpty() && !INVENTED.matcher(one).matches());
  }

  /** One foreign key while its columns come. */
  private record Reference(
      String target, List<String> columns, List<String> targets, short update, short delete) {}

  private List<ForeignKey> foreignKeys(String table) throws SQLException {
    Map<String, Reference> found = new LinkedHashMap<>();
    int[] unnamed = {0};
    catalog.foreignKeys(
        table,
        row -> {
          boolean first = row.getInt("KEY_SEQ") == 1;
          unnamed[0] += first ? 1 : 0;
          String name = Optional.ofNullable(row.getString("FK_NAME")).orElse(UNNAMED + unnamed[0]);
          Reference reference =
              found.computeIfAbsent(
                  name,
                  key ->
                      new Reference(
                          "", new ArrayList<>(), new ArrayList<>(), (short) 0, (short) 0));
          if (reference.target().isEmpty()) {
            reference =
                new Reference(
                    row.getString("PKTABLE_NAME"),
                    reference.columns(),
                    reference.targets(),
                    row.getShort("UPDATE_RULE"),
                    row.getShort("DELETE_RULE"));
            found.put(name, reference);
          }
          reference.columns().add(row.getString("FKCOLUMN_NAME"));
          reference.targets().add(row.getString("PKCOLUMN_NAME"));
        });
    List<ForeignKey> keys = new ArrayList<>();
    found.forEach(
        (name, one) ->
            keys.add(
                new ForeignKey(
                    name.startsWith(UNNAMED) ? Optional.empty() : chosen(name),
                    name.startsWith(UNNAMED) ? "" : name,
                    one.columns(),
                    ObjectId.of(Kind.TABLE, one.target()),
                    one.targets(),
                    action(one.update()),
                    action(one.delete()),
                    "")));
    return keys;
  }

  private static String action(short rule) {
    return switch (rule) {
      case DatabaseMetaData.importedKeyCascade -> "CASCADE";
      case DatabaseMetaData.importedKeySetNull -> "SET NULL";
      case DatabaseMetaData.importedKeySetDefault -> "SET DEFAULT";
      case DatabaseMetaData.importedKeyRestrict -> "RESTRICT";
      default -> "NO ACTION";
    };
  }

  /** One index while its columns come. */
  private record Parts(boolean unique, TreeMap<Integer, String> columns, List<String> descending) {}

  private List<Index> indexes(String table, Optional<PrimaryKey> key, List<ForeignKey> foreignKeys)
      throws SQLException {
    Map<String, Parts> found = new TreeMap<>();
    catalog.indexes(
        table,
        row -> {
          String name = Optional.ofNullable(row.getString("INDEX_NAME")).orElse("");
          boolean unique = !row.getBoolean("NON_UNIQUE");
          Parts parts =
              found.computeIfAbsent(
                  name, one -> new Parts(unique, new TreeMap<>(), new ArrayList<>()));
          String column = Optional.ofNullable(row.getString("COLUMN_NAME")).orElse("(expression)");
          parts.columns().put(row.getInt("ORDINAL_POSITION"), column);
          if ("D".equals(row.getString("ASC_OR_DESC"))) {
            parts.descending().add(column);
          }
        });
    List<Index> indexes = new ArrayList<>();
    found.forEach((name, parts) -> indexes.add(index(name, parts, key, foreignKeys)));
    return indexes;
  }

  /** What stands behind a key is made with it, under whatever name. */
  private static Index index(
      String name, Parts parts, Optional<PrimaryKey> key, List<ForeignKey> foreignKeys) {
    List<String> columns = List.copyOf(parts.columns().values());
    boolean ofKey =
        parts.unique() && key.filter(one -> one.columns().equals(columns)).isPresent()
            || !parts.unique()
                && foreignKeys.stream().anyMatch(one -> one.columns().equals(columns));
    List<String> written = new ArrayList<>();
    for (String column : columns) {
      written.add(
          NameList.write(List.of(column)) + (parts.descending().contains(column) ? " DESC" : ""));
    }
    String definition =
        (parts.unique() ? "UNIQUE INDEX " : "INDEX ") + "(" + String.join(", ", written) + ")";
    return new Index(
        name, columns, parts.unique(), false, ofKey, chosen(name).isEmpty(), definition, "");
  }
}
