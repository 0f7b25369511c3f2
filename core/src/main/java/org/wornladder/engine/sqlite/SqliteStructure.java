package org.wornladder.engine.sqlite;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.wornladder.engine.JsonLists;
import org.wornladder.engine.TextDependencies;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.NameList;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.schema.Trigger;
import org.wornladder.schema.View;
import org.wornladder.sql.Dialects;

/**
 * Reads a structure with a fixed number of queries (SQLite documentation, "PRAGMA functions"). All
 * that is said of a table follows from the texts in {@code sqlite_schema} of it and its indexes
 * ("The Schema Table"): a table whose texts are those of an earlier reading is taken from there.
 */
final class SqliteStructure {
  /** Takes the rows of one query. */
  private interface Rows {
    void read(ResultSet rows) throws SQLException;
  }

  private record IndexText(String table, String text) {}

  private static final String OBJECTS =
      "SELECT type, name, tbl_name, coalesce(sql, '') FROM sqlite_schema"
          + " WHERE name NOT LIKE 'sqlite\\_%' ESCAPE '\\' AND name NOT IN"
          + " (SELECT name FROM pragma_table_list WHERE schema = 'main' AND type = 'shadow')"
          + " ORDER BY name";

  /** The names of tables are a JSON array (SQLite documentation, "JSON Functions"). */
  private static final String OF_TABLES =
      " WHERE m.type = 'table' AND m.name IN (SELECT value FROM json_each(?))";

  private static final String COLUMNS =
      "SELECT m.name, c.name, c.type, c.\"notnull\", c.dflt_value, c.pk, c.hidden"
          + " FROM sqlite_schema m JOIN pragma_table_xinfo(m.name) c"
          + OF_TABLES
          + " ORDER BY m.name, c.cid";
  private static final String FOREIGN_KEYS =
      "SELECT m.name, f.id, f.\"table\", f.\"from\", f.\"to\", f.on_update, f.on_delete"
          + " FROM sqlite_schema m JOIN pragma_foreign_key_list(m.name) f"
          + OF_TABLES
          + " ORDER BY m.name, f.id DESC, f.seq";
  private static final String INDEXES =
      "SELECT m.name, i.name, i.\"unique\", i.origin, i.partial, x.name"
          + " FROM sqlite_schema m JOIN pragma_index_list(m.name) i"
          + " JOIN pragma_index_xinfo(i.name) x"
          + OF_TABLES
          + " AND x.key = 1 ORDER BY m.name, i.name, x.seqno";

  private final Statement sql;
  private final List<String> without;
  private final Map<List<String>, Table> earlier;

  /** The tables of this reading, by their names and texts. */
  private final Map<List<String>, Table> tables = new LinkedHashMap<>();

  private final Map<String, String> definitions = new LinkedHashMap<>();
  private final Map<String, List<Column>> columns = new HashMap<>();
  private final Map<String, TreeMap<Integer, String>> primaryKeys = new HashMap<>();
  private final Map<String, List<ForeignKey>> foreignKeys = new HashMap<>();
  private final Map<String, List<Index>> indexes = new HashMap<>();
  private final Set<String> uniques = new HashSet<>();
  private final Map<String, SqliteTableText> parsed = new HashMap<>();
  private final Map<String, IndexText> indexTexts = new LinkedHashMap<>();
  private final Map<String, List<String>> triggers = new TreeMap<>();
  private final List<DatabaseObject> objects = new ArrayList<>();

  /**
   * @param without the tables that are left out
   * @param earlier what {@link #tables} of an earlier reading of this database said
   */
  SqliteStructure(Statement sql, List<String> without, Map<List<String>, Table> earlier) {
    this.sql = sql;
    this.without = without;
    this.earlier = earlier;
  }

  Schema read() throws SQLException {
    readObjects();
    addTriggers();
    Map<String, List<String>> texts = textsOfTables();
    List<String> others =
        definitions.keySet().stream()
            .filter(name -> !earlier.containsKey(texts.get(name)))
            .toList();
    if (!others.isEmpty()) {
      others.forEach(name -> parsed.put(name, SqliteTableText.of(definitions.get(name))));
      readDetails(JsonLists.write(others.toArray()));
    }
    definitions.forEach(
        (name, definition) -> {
          Table known = earlier.get(texts.get(name));
          tables.put(texts.get(name), known == null ? table(name, definition) : known);
        });
    List<DatabaseObject> all = new ArrayList<>(tables.values());
    all.addAll(objects);
    return new Schema(
        List.copyOf(tables.values()), new TextDependencies(Dialects.SQLITE, all).resolved(objects));
  }

  /** The tables that were read, by the name and the texts that each follows from. */
  Map<List<String>, Table> tables() {
    return tables;
  }

  private Map<String, List<String>> textsOfTables() {
    Map<String, List<String>> texts = new HashMap<>();
    definitions.forEach(
        (name, definition) -> texts.put(name, new ArrayList<>(List.of(name, definition))));
    indexTexts.forEach(
        (name, index) -> {
          if (texts.containsKey(index.table())) {
            texts.get(index.table()).addAll(List.of(name, index.text()));
          }
        });
    return texts;
  }

  private Table table(String name, String definition) {
    SqliteTableText text = parsed.get(name);
    List<Constraint> constraints = new ArrayList<>(text.checks());
    for (Index index : indexes.getOrDefault(name, List.of())) {
      if (index.fromConstraint() && uniques.contains(index.name())) {
        String words = "(" + NameList.write(index.columns()) + ")";
        constraints.add(new Constraint(Kind.UNIQUE, Optional.empty(), "", words));
      }
    }
    return new Table(
        ObjectId.of(Kind.TABLE, name),
        columns.getOrDefault(name, List.of()),
        Optional.ofNullable(primaryKeys.get(name))
            .map(key -> PrimaryKey.over(List.copyOf(key.values()))),
        foreignKeys.getOrDefault(name, List.of()).stream().map(key -> timed(key, text)).toList(),
        constraints,
        indexes.getOrDefault(name, List.of()),
        text.options(),
        definition,
        List.of());
  }

  private static ForeignKey timed(ForeignKey key, SqliteTableText text) {
    return text.isDeferred(key.columns())
        ? new ForeignKey(
            key.chosenName(),
            key.knownAs(),
            key.columns(),
            key.target(),
            key.targetColumns(),
            key.onUpdate(),
            key.onDelete(),
            "DEFERRABLE INITIALLY DEFERRED")
        : key;
  }

  private void readObjects() throws SQLException {
    try (ResultSet rows = sql.executeQuery(OBJECTS)) {
      while (rows.next()) {
        String name = rows.getString(2);
        String definition = rows.getString(4);
        switch (rows.getString(1)) {
          case "table" -> {
            if (!without.contains(name)) {
              definitions.put(name, definition);
            }
          }
          case "view" ->
              objects.add(
                  new View(
                      ObjectId.of(Kind.VIEW, name),
                      SqliteTableText.canonical(definition),
                      Map.of(),
                      List.of(),
                      List.of()));
          case "trigger" -> triggers.put(name, List.of(rows.getString(3), definition));
          default -> indexTexts.put(name, new IndexText(rows.getString(3), definition));
        }
      }
    }
  }

  /** When it is known which of their names are those of views. */
  private void addTriggers() {
    triggers.forEach(
        (name, said) -> {
          String table = said.get(0);
          Kind kind = definitions.containsKey(table) ? Kind.TABLE : Kind.VIEW;
          objects.add(
              new Trigger(
                  ObjectId.of(Kind.TRIGGER, name),
                  ObjectId.of(kind, table),
                  SqliteTableText.canonical(said.get(1)),
                  Map.of(),
                  List.of()));
        });
  }

  private void readDetails(String names) throws SQLException {
    read(COLUMNS, names, this::readColumns);
    read(FOREIGN_KEYS, names, this::readForeignKeys);
    read(INDEXES, names, this::readIndexes);
  }

  private void read(String query, String names, Rows into) throws SQLException {
    try (PreparedStatement prepared = sql.getConnection().prepareStatement(query)) {
      prepared.setString(1, names);
      try (ResultSet rows = prepared.executeQuery()) {
        into.read(rows);
      }
    }
  }

  private void readColumns(ResultSet rows) throws SQLException {
    while (rows.next()) {
      String table = rows.getString(1);
      String name = rows.getString(2);
      boolean nullable = rows.getInt(4) == 0;
      Optional<String> defaultValue = Optional.ofNullable(rows.getString(5));
      columns
          .computeIfAbsent(table, key -> new ArrayList<>())
          .add(new Column(name, rows.getString(3), nullable, defaultValue, more(table, name)));
      if (rows.getInt(6) > 0) {
        primaryKeys.computeIfAbsent(table, key -> new TreeMap<>()).put(rows.getInt(6), name);
      }
    }
  }

  private Map<String, String> more(String table, String column) {
    return parsed.get(table).more(column);
  }

  private void readForeignKeys(ResultSet rows) throws SQLException {
    String open = "";
    while (rows.next()) {
      String table = rows.getString(1);
      String key = table + "\0" + rows.getInt(2);
      List<ForeignKey> keys = foreignKeys.computeIfAbsent(table, name -> new ArrayList<>());
      boolean continues = key.equals(open);
      ForeignKey before =
          continues
              ? keys.remove(keys.size() - 1)
              : ForeignKey.unnamed(
                  List.of(),
                  ObjectId.of(Kind.TABLE, rows.getString(3)),
                  List.of(),
                  rows.getString(6),
                  rows.getString(7));
      keys.add(
          ForeignKey.unnamed(
              plus(before.columns(), Optional.of(rows.getString(4))),
              before.target(),
              plus(before.targetColumns(), Optional.ofNullable(rows.getString(5))),
              before.onUpdate(),
              before.onDelete()));
      open = key;
    }
  }

  private void readIndexes(ResultSet rows) throws SQLException {
    while (rows.next()) {
      String name = rows.getString(2);
      List<Index> list = indexes.computeIfAbsent(rows.getString(1), key -> new ArrayList<>());
      boolean continues = !list.isEmpty() && list.get(list.size() - 1).name().equals(name);
      List<String> before = continues ? list.remove(list.size() - 1).columns() : List.of();
      String column = Optional.ofNullable(rows.getString(6)).orElse("(expression)");
      list.add(
          new Index(
              name,
              plus(before, Optional.of(column)),
              rows.getInt(3) == 1,
              rows.getInt(5) == 1,
              !rows.getString(4).equals("c"),
              Optional.ofNullable(indexTexts.get(name))
                  .map(index -> SqliteTableText.canonical(index.text()))
                  .orElse("")));
      if (rows.getString(4).equals("u")) {
        uniques.add(name);
      }
    }
  }

  private static List<String> plus(List<String> names, Optional<String> name) {
    List<String> longer = new ArrayList<>(names);
    name.ifPresent(longer::add);
    return longer;
  }
}
