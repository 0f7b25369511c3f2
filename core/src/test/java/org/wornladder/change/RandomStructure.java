package org.wornladder.change;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.wornladder.server.TestDatabase.Kind;

/**
 * A structure made at random, and others made of it by random changes: tables with keys between
 * them, views on views, and what an engine has beyond that: routines in defaults, checks and
 * indexes, types, triggers, policies, sequences, a second schema, odd names.
 */
final class RandomStructure {
  private static final List<String> ODD =
      List.of("bin", "Crate", "order", "grower", "select", "tree of \"x\"", "press", "a.b", "lot");

  private final Kind kind;
  private final Random random;
  private final Map<String, Table> tables = new LinkedHashMap<>();
  private final Map<String, View> views = new LinkedHashMap<>();
  private final Map<String, Integer> functions = new LinkedHashMap<>();
  private final Map<String, List<String>> enums = new LinkedHashMap<>();
  private final Map<String, Integer> sequences = new LinkedHashMap<>();
  private final Map<String, Integer> domains = new LinkedHashMap<>();
  private int count;

  private static final class Column {
    private String type;
    private boolean required;
    private String byDefault = "";
    private String computed = "";

    private Column copy() {
      Column copy = new Column();
      copy.type = type;
      copy.required = required;
      copy.byDefault = byDefault;
      copy.computed = computed;
      return copy;
    }
  }

  private static final class Table {
    private final Map<String, Column> columns = new LinkedHashMap<>();
    private final Map<String, List<String>> indexes = new LinkedHashMap<>();
    private final Map<String, String> checks = new LinkedHashMap<>();
    private final Map<String, List<String>> uniques = new LinkedHashMap<>();

    /** The tables that columns point to. */
    private final Map<String, String> references = new LinkedHashMap<>();

    private Optional<Integer> trigger = Optional.empty();
    private boolean policy;
    private boolean elsewhere;
    private String comment = "";

    private Table copy() {
      Table copy = new Table();
      columns.forEach((name, column) -> copy.columns.put(name, column.copy()));
      copy.indexes.putAll(indexes);
      copy.checks.putAll(checks);
      copy.uniques.putAll(uniques);
      copy.references.putAll(references);
      copy.trigger = trigger;
      copy.policy = policy;
      copy.elsewhere = elsewhere;
      copy.comment = comment;
      return copy;
    }
  }

  /** A view of some columns of a table or another view, materialised or not. */
  private record View(String from, List<String> columns, int limit, boolean stored) {}

  private RandomStructure(Kind kind, Random random) {
    this.kind = kind;
    this.random = random;
  }

  static RandomStructure of(Kind kind, Random random) {
    RandomStructure structure = new RandomStructure(kind, random);
    for (int i = 0; i < 12; i++) {
      structure.change();
    }
    structure.tidy();
    return structure;
  }

  /** Another structure that some changes make of this one. */
  RandomStructure changed() {
    RandomStructure other = new RandomStructure(kind, random);
    tables.forEach((name, table) -> other.tables.put(name, table.copy()));
    other.views.putAll(views);
    other.functions.putAll(functions);
    other.enums.putAll(enums);
    other.sequences.putAll(sequences);
    other.domains.putAll(domains);
    other.count = count;
    int changes = 1 + random.nextInt(6);
    for (int i = 0; i < changes; i++) {
      other.change();
    }
    other.tidy();
    return other;
  }

  private String fresh(String stem) {
    count++;
    return ODD.get(random.nextInt(ODD.size())) + "_" + stem + count;
  }

  private <T> T any(Collection<T> all) {
    return List.copyOf(all).get(random.nextInt(all.size()));
  }

  private boolean postgres() {
    return kind == Kind.POSTGRES;
  }

  private void change() {
    int what = random.nextInt(16);
    if (tables.isEmpty() || what < 2) {
      newTable();
    } else if (what == 2 && tables.size() > 2) {
      tables.remove(any(tables.keySet()));
    } else if (what < 6) {
      addColumn(any(tables.values()));
    } else if (what == 6) {
      Table table = any(tables.values());
      String column = any(table.columns.keySet());
      if (!column.equals("id")) {
        table.columns.remove(column);
      }
    } else if (what < 9) {
      alterColumn(any(tables.values()));
    } else if (what == 9) {
      newView();
    } else if (what == 10 && !views.isEmpty()) {
      String name = any(views.keySet());
      View view = views.get(name);
      views.put(name, new View(view.from(), view.columns(), view.limit() + 1, view.stored()));
    } else if (what == 11) {
      Table table = any(tables.values());
      table.references.put(fresh("ref"), any(tables.keySet()));
    } else if (what == 12) {
      keys(any(tables.values()));
    } else if (what == 13) {
      extras();
    } else if (what == 14 && !views.isEmpty()) {
      views.remove(any(views.keySet()));
    } else {
      Table table = any(tables.values());
      table.trigger = table.trigger.isPresent() ? Optional.empty() : Optional.of(random.nextInt(9));
    }
  }

  private void newTable() {
    Table table = new Table();
    Column id = new Column();
    id.type = "integer";
    id.required = true;
    table.columns.put("id", id);
    table.elsewhere = postgres() && random.nextInt(4) == 0;
    tables.put(fresh("t"), table);
    addColumn(table);
    addColumn(table);
  }

  private void addColumn(Table table) {
    Column column = new Column();
    column.type = any(types());
    column.required = random.nextInt(3) == 0;
    column.byDefault = byDefault(column.type);
    if (random.nextInt(6) == 0 && kind != Kind.SQLITE) {
      column.type = "integer";
      column.required = false;
      column.byDefault = "";
      column.computed = "id";
    }
    table.columns.put(fresh("c"), column);
  }

  private List<String> types() {
    List<String> types =
        new ArrayList<>(List.of("integer", "bigint", "varchar(40)", "varchar(60)"));
    if (postgres()) {
      types.addAll(enums.keySet());
      types.addAll(domains.keySet());
    }
    return types;
  }

  private String byDefault(String type) {
    if (enums.containsKey(type)) {
      return "'" + enums.get(type).get(0) + "'";
    }
    if (type.startsWith("varchar")) {
      return "'7'";
    }
    if (postgres() && !functions.isEmpty() && random.nextInt(3) == 0) {
      return "f:" + any(functions.keySet());
    }
    if (postgres() && !sequences.isEmpty() && random.nextInt(3) == 0) {
      return "s:" + any(sequences.keySet());
    }
    return String.valueOf(random.nextInt(9));
  }

  private void alterColumn(Table table) {
    String name = any(table.columns.keySet());
    Column column = table.columns.get(name);
    if (name.equals("id") || !column.computed.isEmpty()) {
      return;
    }
    switch (random.nextInt(3)) {
      case 0 -> column.required = !column.required;
      case 1 -> column.byDefault = byDefault(column.type);
      default -> {
        column.type = any(List.of("bigint", "varchar(60)", "varchar(40)"));
        column.byDefault = byDefault(column.type);
      }
    }
  }

  private void newView() {
    boolean onView = !views.isEmpty() && random.nextBoolean();
    String from = onView ? any(views.keySet()) : any(tables.keySet());
    List<String> all =
        onView ? views.get(from).columns() : List.copyOf(tables.get(from).columns.keySet());
    List<String> some = new ArrayList<>(all);
    if (some.size() > 1 && random.nextBoolean()) {
      some.remove(random.nextInt(some.size()));
    }
    boolean stored = postgres() && random.nextInt(3) == 0;
    views.put(fresh("v"), new View(from, List.copyOf(some), random.nextInt(5), stored));
  }

  private void keys(Table table) {
    String column = any(table.columns.keySet());
    switch (random.nextInt(3)) {
      case 0 -> table.indexes.put(fresh("i"), List.of(column, "id"));
      case 1 -> table.uniques.put(fresh("u"), List.of("id", column));
      default -> table.checks.put(fresh("k"), "id");
    }
  }

  private void extras() {
    if (!postgres()) {
      any(tables.values()).comment = "it's " + random.nextInt(99);
      return;
    }
    switch (random.nextInt(6)) {
      case 5 -> domains.put("d" + random.nextInt(3), random.nextInt(9));
      case 0 -> functions.put("f" + random.nextInt(4), random.nextInt(9));
      case 1 -> enums.put("e" + random.nextInt(3), labels());
      case 2 -> sequences.put("s" + random.nextInt(3), 1 + random.nextInt(9));
      case 3 -> any(tables.values()).policy ^= true;
      default -> any(tables.values()).comment = "it's " + random.nextInt(99);
    }
  }

  private List<String> labels() {
    List<String> labels = new ArrayList<>(List.of("A", "b c", "it''s", "bin"));
    while (labels.size() > 2 && random.nextBoolean()) {
      labels.remove(1 + random.nextInt(labels.size() - 1));
    }
    return labels;
  }

  /** Takes away what speaks of things that are not there any more. */
  private void tidy() {
    for (Table table : tables.values()) {
      table.references.values().removeIf(target -> !tables.containsKey(target));
      table.indexes.values().removeIf(columns -> !table.columns.keySet().containsAll(columns));
      table.uniques.values().removeIf(columns -> !table.columns.keySet().containsAll(columns));
      table.indexes.values().removeIf(columns -> columns.get(0).equals("id"));
      table.uniques.values().removeIf(columns -> columns.get(1).equals("id"));
      for (Column column : table.columns.values()) {
        boolean known = types().contains(column.type);
        boolean label =
            !enums.containsKey(column.type)
                || enums
                    .get(column.type)
                    .contains(column.byDefault.replace("'", "").replace("its", "it''s"));
        if (!known) {
          column.type = "varchar(40)";
        }
        if (!known || !label) {
          column.byDefault = byDefault(column.type);
        }
        String called = column.byDefault.length() > 2 ? column.byDefault.substring(2) : "";
        boolean gone =
            (column.byDefault.startsWith("f:") && !functions.containsKey(called))
                || (column.byDefault.startsWith("s:") && !sequences.containsKey(called));
        column.byDefault = gone ? "1" : column.byDefault;
      }
    }
    for (boolean more = true; more; ) {
      more =
          views
              .entrySet()
              .removeIf(
                  view -> {
                    View is = view.getValue();
                    boolean onTable = tables.containsKey(is.from());
                    boolean onView = views.containsKey(is.from());
                    return onTable
                        ? !tables.get(is.from()).columns.keySet().containsAll(is.columns())
                        : !onView || !views.get(is.from()).columns().containsAll(is.columns());
                  });
    }
  }

  private String quoted(String name) {
    String quote = kind == Kind.MARIADB ? "`" : "\"";
    return quote + name.replace(quote, quote + quote) + quote;
  }

  private String relation(String name) {
    boolean elsewhere = tables.containsKey(name) && tables.get(name).elsewhere;
    return (elsewhere ? "audit." : "") + quoted(name);
  }

  /** The statements that make it in an empty database. */
  List<String> statements() {
    List<String> statements = new ArrayList<>();
    enums.forEach(
        (name, labels) ->
            statements.add(
                "CREATE TYPE " + name + " AS ENUM ('" + String.join("', '", labels) + "')"));
    sequences.forEach(
        (name, step) -> statements.add("CREATE SEQUENCE " + name + " INCREMENT BY " + step));
    functions.forEach(
        (name, value) ->
            statements.add(
                "CREATE FUNCTION %s(n integer) RETURNS %s IMMUTABLE LANGUAGE sql AS 'SELECT (n + %d)::%s'"
                    .formatted(name, number(value), value, number(value))));
    domains.forEach(
        (name, value) ->
            statements.add(
                "CREATE DOMAIN %s AS %s CONSTRAINT small CHECK (VALUE < %d)"
                    .formatted(name, number(value), 100 + value)));
    tables.forEach((name, table) -> statements.add(table(name, table)));
    tables.forEach((name, table) -> more(name, table, statements));
    views.forEach(
        (name, view) ->
            statements.add(
                "CREATE %sVIEW %s AS SELECT %s FROM %s WHERE %d < 9"
                    .formatted(
                        view.stored() ? "MATERIALIZED " : "",
                        quoted(name),
                        String.join(", ", view.columns().stream().map(this::quoted).toList()),
                        relation(view.from()),
                        view.limit())));
    views.forEach(
        (name, view) -> {
          if (view.stored()) {
            statements.add(
                "CREATE INDEX %s ON %s (%s)"
                    .formatted(quoted("mvi_" + name), quoted(name), quoted(view.columns().get(0))));
          }
        });
    return statements;
  }

  /** A type of numbers that changes with a number. */
  private static String number(int value) {
    return value % 2 == 0 ? "integer" : "bigint";
  }

  private String table(String name, Table table) {
    List<String> parts = new ArrayList<>();
    table.columns.forEach((column, said) -> parts.add(column(column, said)));
    table.references.forEach((column, target) -> parts.add(quoted(column) + " integer"));
    parts.add("PRIMARY KEY (id)".replace("id", quoted("id")));
    table.uniques.forEach(
        (key, columns) ->
            parts.add(
                "CONSTRAINT %s UNIQUE (%s)"
                    .formatted(
                        quoted(key),
                        String.join(", ", columns.stream().map(this::quoted).toList()))));
    table.checks.forEach(
        (key, column) ->
            parts.add("CONSTRAINT %s CHECK (%s)".formatted(quoted(key), check(column))));
    if (kind == Kind.SQLITE) {
      table.references.forEach((column, target) -> parts.add(reference(column, target)));
    }
    return "CREATE TABLE " + relation(name) + " (" + String.join(", ", parts) + ")";
  }

  /** A call of a function over a key, as a further column of an index. */
  private String called() {
    return postgres() && !functions.isEmpty()
        ? ", " + functions.keySet().iterator().next() + "(" + quoted("id") + ")"
        : "";
  }

  private String check(String column) {
    return postgres() && !functions.isEmpty()
        ? functions.keySet().iterator().next() + "(" + quoted(column) + ") > -5"
        : quoted(column) + " > -5";
  }

  private String reference(String column, String target) {
    return "FOREIGN KEY (%s) REFERENCES %s (%s) ON DELETE CASCADE"
        .formatted(quoted(column), relation(target), quoted("id"));
  }

  private String column(String name, Column said) {
    StringBuilder text = new StringBuilder(quoted(name)).append(' ').append(said.type);
    if (!said.computed.isEmpty()) {
      text.append(" GENERATED ALWAYS AS (").append(quoted(said.computed)).append(" + 1)");
      text.append(kind == Kind.H2 ? "" : " STORED");
      return text.toString();
    }
    if (!said.byDefault.isEmpty()) {
      String value = said.byDefault;
      text.append(" DEFAULT ");
      text.append(
          value.startsWith("f:")
              ? value.substring(2) + "(3)"
              : value.startsWith("s:") ? "nextval('" + value.substring(2) + "')" : value);
    }
    return text + (said.required ? " NOT NULL" : "");
  }

  private void more(String name, Table table, List<String> statements) {
    table.indexes.forEach(
        (index, columns) ->
            statements.add(
                "CREATE INDEX %s ON %s (%s%s)"
                    .formatted(
                        quoted(index),
                        relation(name),
                        String.join(", ", columns.stream().map(this::quoted).toList()),
                        called())));
    if (kind != Kind.SQLITE) {
      table.references.forEach(
          (column, target) ->
              statements.add(
                  "ALTER TABLE %s ADD CONSTRAINT %s %s"
                      .formatted(
                          relation(name), quoted("fk_" + column), reference(column, target))));
    }
    if (!table.comment.isEmpty() && (postgres() || kind == Kind.H2)) {
      statements.add(
          "COMMENT ON TABLE %s IS '%s'"
              .formatted(relation(name), table.comment.replace("'", "''")));
    }
    if (table.policy) {
      statements.add("ALTER TABLE " + relation(name) + " ENABLE ROW LEVEL SECURITY");
      statements.add("CREATE POLICY p ON " + relation(name) + " USING (id > 0)");
    }
    table.trigger.ifPresent(number -> trigger(name, number, statements));
  }

  private void trigger(String name, int number, List<String> statements) {
    String trigger = quoted("trg_" + name);
    switch (kind) {
      case POSTGRES -> {
        statements.add(
            ("CREATE OR REPLACE FUNCTION stamp() RETURNS trigger LANGUAGE plpgsql AS"
                + " 'BEGIN RETURN NEW; END'"));
        statements.add(
            "CREATE TRIGGER %s BEFORE UPDATE OF id ON %s FOR EACH ROW WHEN (NEW.id > %d) EXECUTE FUNCTION stamp()"
                .formatted(trigger, relation(name), number));
      }
      case MARIADB ->
          statements.add(
              "CREATE TRIGGER %s BEFORE INSERT ON %s FOR EACH ROW BEGIN SET @x = %d; END"
                  .formatted(trigger, relation(name), number));
      case SQLITE ->
          statements.add(
              "CREATE TRIGGER %s AFTER DELETE ON %s BEGIN SELECT %d; END"
                  .formatted(trigger, relation(name), number));
      default -> {
        // Triggers are Java classes there.
      }
    }
  }

  /** Statements that put rows into its tables, without those that point to others. */
  List<String> rows() {
    List<String> rows = new ArrayList<>();
    tables.forEach(
        (name, table) -> {
          for (int id = 1; id < 3; id++) {
            rows.add("INSERT INTO %s (%s) VALUES (%d)".formatted(relation(name), quoted("id"), id));
          }
        });
    return rows;
  }

  /** Queries of what a change to another structure must not touch: columns that both have. */
  Map<String, String> kept(RandomStructure other) {
    Map<String, String> queries = new LinkedHashMap<>();
    tables.forEach(
        (name, table) -> {
          Table there = other.tables.get(name);
          if (there != null && there.elsewhere == table.elsewhere) {
            table.columns.forEach(
                (column, said) -> {
                  boolean same =
                      there.columns.containsKey(column)
                          && said.computed.equals(there.columns.get(column).computed)
                          && !said.required;
                  if (same && !there.columns.get(column).required) {
                    queries.put(
                        name + "." + column,
                        "SELECT %s FROM %s ORDER BY %s"
                            .formatted(quoted(column), relation(name), quoted("id")));
                  }
                });
          }
        });
    return queries;
  }
}
