package org.wornladder.engine.sqlite;

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

/** Reads a structure with a fixed number of queries (SQLite documentation, "PRAGMA functions"). */
final class SqliteStructure {
  private static final String OBJECTS =
      "SELECT type, name, tbl_name, coalesce(sql, '') FROM sqlite_schema"
          + " WHERE name NOT LIKE 'sqlite\\_%' ESCAPE '\\' AND name NOT IN"
          + " (SELECT name FROM pragma_table_list WHERE schema = 'main' AND type = 'shadow')"
          + " ORDER BY name";
  private static final String COLUMNS =
      "SELECT m.name, c.name, c.type, c.\"notnull\", c.dflt_value, c.pk, c.hidden"
          + " FROM sqlite_schema m JOIN pragma_table_xinfo(m.name) c"
          + " WHERE m.type = 'table' ORDER BY m.name, c.cid";
  private static final String FOREIGN_KEYS =
      "SELECT m.name, f.id, f.\"table\", f.\"from\", f.\"to\", f.on_update, f.on_delete"
          + " FROM sqlite_schema m JOIN pragma_foreign_key_list(m.name) f"
          + " WHERE m.type = 'table' ORDER BY m.name, f.id DESC, f.seq";
  private static final String INDEXES =
      "SELECT m.name, i.name, i.\"unique\", i.origin, i.partial, x.name"
          + " FROM sqlite_schema m JOIN pragma_index_list(m.name) i"
          + " JOIN pragma_index_xinfo(i.name) x"
          + " WHERE m.type = 'table' AND x.key = 1 ORDER BY m.name, i.name, x.seqno";

  private final Statement sql;
  private final List<String> without;
  private final Map<String, String> definitions = new LinkedHashMap<>();
  private final Map<String, List<Column>> columns = new HashMap<>();
  private final Map<String, TreeMap<Integer, String>> primaryKeys = new HashMap<>();
  private final Map<String, List<ForeignKey>> foreignKeys = new HashMap<>();
  private final Map<String, List<Index>> indexes = new HashMap<>();
  private final Set<String> uniques = new HashSet<>();
  private final Map<String, SqliteTableText> texts = new HashMap<>();
  private final Map<String, String> indexTexts = new HashMap<>();
  private final Map<String, List<String>> triggers = new TreeMap<>();
  private final List<DatabaseObject> objects = new ArrayList<>();

  SqliteStructure(Statement sql, List<String> without) {
    this.sql = sql;
    this.without = without;
  }

  Schema read() throws SQLException {
    readObjects();
    addTriggers();
    readColumns();
    readForeignKeys();
    readIndexes();
    List<Table> tables = new ArrayList<>();
    definitions.forEach((name, definition) -> tables.add(table(name, definition)));
    List<DatabaseObject> all = new ArrayList<>(tables);
    all.addAll(objects);
    return new Schema(tables, new TextDependencies(Dialects.SQLITE, all).resolved(objects));
  }

  private Table table(String name, String definition) {
    SqliteTableText text = texts.get(name);
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
              texts.put(name, SqliteTableText.of(definition));
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
          default -> indexTexts.put(name, SqliteTableText.canonical(definition));
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

  private void readColumns() throws SQLException {
    try (ResultSet rows = sql.executeQuery(COLUMNS)) {
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
  }

  private Map<String, String> more(String table, String column) {
    return texts.containsKey(table) ? texts.get(table).more(column) : Map.of();
  }

  private void readForeignKeys() throws SQLException {
    try (ResultSet rows = sql.executeQuery(FOREIGN_KEYS)) {
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
  }

  private void readIndexes() throws SQLException {
    try (ResultSet rows = sql.executeQuery(INDEXES)) {
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
                indexTexts.getOrDefault(name, "")));
        if (rows.getString(4).equals("u")) {
          uniques.add(name);
        }
      }
    }
  }

  private static List<String> plus(List<String> names, Optional<String> name) {
    List<String> longer = new ArrayList<>(names);
    name.ifPresent(longer::add);
    return longer;
  }
}
