package org.wornladder.engine.sqlite;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import org.wornladder.change.Alteration;
import org.wornladder.change.Lock;
import org.wornladder.change.SchemaChange;
import org.wornladder.engine.SqlDdl;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.NameList;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.sql.Dialects;

/**
 * Writes changes of structures for SQLite (SQLite documentation, "CREATE TABLE", "ALTER TABLE"). A
 * table whose own text is known is written as it was; one that cannot be altered in place is made
 * anew, and its rows are copied.
 */
final class SqliteDdl extends SqlDdl {
  static final String VIRTUAL = "virtual";
  static final String STRICT = "strict";
  static final String ROWID = "rowid";

  /** A default that needs no parentheses (SQLite documentation, "CREATE TABLE"). */
  private static final Pattern LITERAL =
      Pattern.compile(
          "(?i)[xX]?'(?:[^']|'')*'|[+-]?[0-9]+(?:\\.[0-9]*)?(?:e[+-]?[0-9]+)?|null|true|false"
              + "|current_(?:time|date|timestamp)");

  private static final String AUTOINCREMENT = "autoincrement";
  private static final String FOREIGN_KEYS_OFF = "PRAGMA foreign_keys = OFF";
  private static final String ROW_NUMBER = "rowid";
  private static final String OLD = "ladder_old_";

  SqliteDdl() {
    super(Dialects.SQLITE, SqliteEngine.QUOTING, Letters.BOTH);
  }

  /** Columns take values of all types (SQLite documentation, "Datatypes In SQLite"). */
  @Override
  public boolean enforcesTypes() {
    return false;
  }

  /** Of AUTOINCREMENT (SQLite's documentation, "SQLite Autoincrement"). */
  @Override
  public Optional<String> counters(Snapshot structure) {
    boolean any =
        structure.objects().stream()
            .filter(Table.class::isInstance)
            .flatMap(table -> ((Table) table).columns().stream())
            .anyMatch(column -> column.more(Column.IDENTITY).isPresent());
    String name = "name = ' || quote(name)";
    return any
        ? Optional.of(
            "SELECT 'DELETE FROM sqlite_sequence WHERE "
                + name
                + " FROM sqlite_sequence UNION ALL SELECT 'INSERT"
                + " INTO sqlite_sequence (name, seq) VALUES (' || quote(name) || ', ' || seq ||"
                + " ')' FROM sqlite_sequence ORDER BY 1")
        : Optional.empty();
  }

  /**
   * Its pages, without those of its indexes (SQLite's documentation, "The DBSTAT Virtual Table").
   */
  @Override
  public Optional<String> size(ObjectId table) {
    return Optional.of(
        "SELECT coalesce(sum(pgsize), 0) FROM dbstat WHERE name = " + text(table.name()));
  }

  /** SQLite's documentation, "Rowid Tables". */
  @Override
  public Optional<RowPlace> rowPlace(Table table) {
    return table.option(ROWID).isPresent()
        ? Optional.empty()
        : Optional.of(
            new RowPlace(new Column("rowid", "INTEGER", false, Optional.empty(), Map.of()), false));
  }

  /** SQLite's documentation, "Built-In Scalar SQL Functions". */
  @Override
  public String literal(Column column) {
    return "CASE WHEN "
        + name(column.name())
        + " IS NULL THEN NULL ELSE quote("
        + name(column.name())
        + ") END";
  }

  @Override
  public Optional<Lock> lock(SchemaChange change) {
    return change instanceof SchemaChange.Rebuild
        ? Optional.of(Lock.of("the table is copied: whoever writes to the database waits"))
        : Optional.empty();
  }

  @Override
  public Alteration alteration(SchemaChange change) {
    if (change instanceof SchemaChange.Create create && refusal(create.object()).isPresent()) {
      return Alteration.notPossible(refusal(create.object()).get());
    }
    if (change instanceof SchemaChange.Alter alter) {
      boolean virtual = alter.before().fact(VIRTUAL).isPresent();
      return alter.target().kind() != Kind.TABLE
          ? Alteration.RECREATE
          : virtual
              ? Alteration.notPossible("a virtual table cannot be altered")
              : Alteration.REBUILD;
    }
    if (change instanceof SchemaChange.AlterPart alter) {
      return alter.before() instanceof Index ? Alteration.RECREATE : Alteration.REBUILD;
    }
    if (change instanceof SchemaChange.AddPart add) {
      boolean appended = add.part() instanceof Column column && isAppended(column, add.position());
      return appended || add.part() instanceof Index ? Alteration.IN_PLACE : Alteration.REBUILD;
    }
    if (change instanceof SchemaChange.DropPart drop) {
      boolean free = drop.part() instanceof Column column && column.more(Column.IDENTITY).isEmpty();
      return free || drop.part() instanceof Index ? Alteration.IN_PLACE : Alteration.REBUILD;
    }
    return Alteration.IN_PLACE;
  }

  /** Whether ADD COLUMN can add a column (SQLite documentation, "ALTER TABLE ADD COLUMN"). */
  private static boolean isAppended(Column column, Optional<SchemaChange.Position> position) {
    boolean constant =
        column.defaultValue().filter(value -> value.startsWith("(") || isTime(value)).isEmpty();
    boolean filled = column.nullable() || column.defaultValue().isPresent();
    return position.isEmpty()
        && constant
        && filled
        && !isStored(column)
        && column.more(Column.IDENTITY).isEmpty();
  }

  private static boolean isTime(String value) {
    return value.toUpperCase(Locale.ROOT).startsWith("CURRENT_");
  }

  /** A rebuilt table takes its triggers with it; views find it again under its name. */
  @Override
  public boolean tolerates(SchemaChange change, DatabaseObject dependent, Optional<Part> part) {
    if (change instanceof SchemaChange.Rebuild) {
      return dependent.owner().filter(change.target()::equals).isEmpty();
    }
    return part.isPresent() || change instanceof SchemaChange.AlterPart;
  }

  @Override
  public boolean placesColumns() {
    return true;
  }

  @Override
  public boolean isInside(DatabaseObject object, Part part) {
    return !(part instanceof Index);
  }

  /**
   * Foreign keys would delete the rows that point to a table which is made anew, and its views
   * would follow the old table to its other name. A session restores both settings after a rung.
   */
  @Override
  public List<String> preamble(Collection<SchemaChange> changes) {
    return changes.stream().anyMatch(SchemaChange.Rebuild.class::isInstance)
        ? List.of(FOREIGN_KEYS_OFF, "PRAGMA legacy_alter_table = ON")
        : List.of();
  }

  @Override
  public List<String> clientEnding(List<String> statements) {
    return statements.contains(FOREIGN_KEYS_OFF)
        ? List.of("PRAGMA legacy_alter_table = OFF", "PRAGMA foreign_key_check")
        : List.of();
  }

  @Override
  protected List<String> createTable(Table table) {
    return List.of(table.text().isEmpty() ? written(table) : table.text());
  }

  private String written(Table table) {
    Optional<String> module = table.option(VIRTUAL);
    if (module.isPresent()) {
      return "CREATE VIRTUAL TABLE " + name(table.id()) + " USING " + module.get();
    }
    boolean counts =
        table.columns().stream().anyMatch(column -> column.more(Column.IDENTITY).isPresent());
    List<String> inside = new ArrayList<>();
    for (Part part : table.parts()) {
      if (part instanceof Column column) {
        inside.add(column(column));
      } else if (!(part instanceof Index) && !(counts && part instanceof PrimaryKey)) {
        inside.add(constraint(part));
      }
    }
    List<String> options = new ArrayList<>();
    table.option(STRICT).ifPresent(yes -> options.add("STRICT"));
    table.option(ROWID).ifPresent(no -> options.add("WITHOUT ROWID"));
    String end = options.isEmpty() ? "" : " " + String.join(", ", options);
    return "CREATE TABLE " + name(table.id()) + lines(inside) + end;
  }

  @Override
  protected String column(Column column) {
    StringBuilder text = new StringBuilder(name(column.name()));
    text.append(column.type().isEmpty() ? "" : " " + column.type());
    column
        .more(Column.IDENTITY)
        .filter(AUTOINCREMENT::equals)
        .ifPresent(how -> text.append(" PRIMARY KEY AUTOINCREMENT"));
    text.append(column.nullable() ? "" : " NOT NULL");
    column
        .defaultValue()
        .ifPresent(
            value ->
                text.append(" DEFAULT ")
                    .append(LITERAL.matcher(value).matches() ? value : "(" + value + ")"));
    column.more(Column.COLLATION).ifPresent(name -> text.append(" COLLATE ").append(name(name)));
    computed(column)
        .ifPresent(
            how ->
                text.append(" GENERATED ALWAYS AS ")
                    .append(how)
                    .append(isStored(column) ? " STORED" : " VIRTUAL"));
    return text.toString();
  }

  @Override
  protected String demand(Constraint constraint) {
    return constraint.kind() == Kind.UNIQUE
        ? "UNIQUE " + columns(NameList.inParentheses(constraint.definition()))
        : super.demand(constraint);
  }

  @Override
  protected String createIndex(Index index, ObjectId table) {
    return index.definition();
  }

  /** The old one is renamed first, so that the new one keeps its own text. */
  @Override
  protected List<String> rebuild(SchemaChange.Rebuild change) {
    Table before = change.before();
    Table after = change.after();
    String old = name(OLD + before.id().name());
    String name = name(after.id());
    List<String> statements = new ArrayList<>();
    before.indexes().stream()
        .filter(index -> !index.fromConstraint())
        .forEach(index -> statements.add("DROP INDEX " + name(index.name())));
    statements.add("ALTER TABLE " + name(before.id()) + " RENAME TO " + old);
    statements.addAll(createTable(after));
    Map<String, String> copied = copied(change);
    if (!copied.isEmpty()) {
      statements.add(
          "INSERT INTO %s (%s)\n  SELECT %s FROM %s"
              .formatted(
                  name,
                  String.join(", ", copied.keySet()),
                  String.join(", ", copied.values()),
                  old));
    }
    if (counts(before) && counts(after)) {
      statements.add("DELETE FROM sqlite_sequence WHERE name = " + text(after.id().name()));
      statements.add(
          "UPDATE sqlite_sequence SET name = "
              + text(after.id().name())
              + " WHERE name = "
              + text(OLD + before.id().name()));
    }
    statements.add("DROP TABLE " + old);
    return statements;
  }

  /** What each column of the new table gets out of the old one. */
  private Map<String, String> copied(SchemaChange.Rebuild change) {
    Map<String, String> copied = new LinkedHashMap<>();
    if (numbersRows(change.before()) && numbersRows(change.after())) {
      copied.put(ROW_NUMBER, ROW_NUMBER);
    }
    for (Column column : change.after().columns()) {
      String name = name(column.name());
      Optional<String> value = Optional.ofNullable(change.values().get(column.name()));
      boolean copies =
          change.before().column(column.name()).filter(SqliteDdl::holdsValues).isPresent();
      if (holdsValues(column) && copies) {
        copied.put(name, value.map(text -> "coalesce(" + name + ", " + text + ")").orElse(name));
      } else if (holdsValues(column) && value.isPresent()) {
        copied.put(name, value.get());
      }
    }
    return copied;
  }

  /** Whether rows have a number that no column shows (SQLite documentation, "Rowid Tables"). */
  private static boolean numbersRows(Table table) {
    boolean shown =
        table.columns().stream()
            .anyMatch(
                column ->
                    ROW_NUMBER.equalsIgnoreCase(column.name())
                        || column.type().equalsIgnoreCase("integer")
                            && table.primaryKey().equals(List.of(column.name())));
    return !shown && table.option(ROWID).isEmpty();
  }

  private static boolean holdsValues(Column column) {
    return column.more(Column.GENERATED).isEmpty();
  }

  private static boolean counts(Table table) {
    return table.columns().stream().anyMatch(column -> column.more(Column.IDENTITY).isPresent());
  }

  @Override
  protected List<String> alter(DatabaseObject before, DatabaseObject after) {
    throw new IllegalArgumentException("nothing is altered in place here: " + after.id());
  }

  @Override
  protected List<String> alterPart(SchemaChange.AlterPart change) {
    throw new IllegalArgumentException("no part is altered in place here: " + change.target());
  }
}
