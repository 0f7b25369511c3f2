package org.wornladder.engine.mariadb;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.wornladder.change.Alteration;
import org.wornladder.change.Lock;
import org.wornladder.change.SchemaChange;
import org.wornladder.engine.SequenceClauses;
import org.wornladder.engine.SqlDdl;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.DefinedObject;
import org.wornladder.schema.Facts;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.OtherObject;
import org.wornladder.schema.Part;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Right;
import org.wornladder.schema.Sequence;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.sql.Dialects;

/** Writes changes of structures for MariaDB (documentation, "CREATE TABLE", "ALTER TABLE"). */
final class MariadbDdl extends SqlDdl {
  /** How the expression begins of a column that says from when, or until when, a row was there. */
  static final String ROW = "ROW ";

  /** What a column must fulfil that was declared as a part of it: as such it goes with it. */
  static final String CHECK = "check";

  static final String ENGINE = "engine";
  static final String COLLATION = "collation";
  static final String STORAGE_OPTIONS = "storage options";
  static final String VERSIONED = "system versioned";
  static final String PARTITIONS = "partitions";
  static final String SQL_MODE = "sql mode";
  static final String CHARSETS = "character sets";
  static final String TIME_ZONE = "time zone";

  private final MariadbServer server;

  MariadbDdl(MariadbServer server) {
    super(Dialects.MARIADB, MariadbEngine.QUOTING, Letters.BOTH);
    this.server = server;
  }

  /** MySQL manual, "CHECK Constraints". */
  @Override
  protected String demand(Constraint constraint) {
    String definition = constraint.definition();
    return definition.endsWith(MysqlCatalog.NOT_ENFORCED)
        ? "CHECK " + definition
        : super.demand(constraint);
  }

  /** A table's AUTO_INCREMENT, and the next value of a sequence (documentation, "SETVAL"). */
  @Override
  public Optional<String> counters(Snapshot structure) {
    StringBuilder query =
        new StringBuilder(
            "SELECT concat('ALTER TABLE `', replace(table_name, '`', '``'), '` AUTO_INCREMENT = ',"
                + " auto_increment) FROM information_schema.tables WHERE table_schema = database()"
                + " AND auto_increment > 1");
    for (DatabaseObject object : structure.objects()) {
      if (object.kind() == Kind.SEQUENCE) {
        query
            .append(" UNION ALL SELECT concat('SELECT setval(', ")
            .append(text(name(object.id())))
            .append(", ', ', next_not_cached_value, ', 0)') FROM ")
            .append(name(object.id()));
      }
    }
    return Optional.of(query.append(" ORDER BY 1").toString());
  }

  /** As InnoDB estimates it (MariaDB's documentation, "Information Schema TABLES Table"). */
  @Override
  public Optional<String> size(ObjectId table) {
    return Optional.of(
        "SELECT coalesce(data_length + index_length, 0) FROM information_schema.tables WHERE"
            + " table_schema = database() AND table_name = "
            + text(table.name()));
  }

  /** Bits and bytes as numbers, other values in quotes (MariaDB's documentation, "QUOTE"). */
  @Override
  public String literal(Column column) {
    String value = name(column.name());
    String type = column.type();
    if (type.startsWith("bit")) {
      return "concat('b''', bin(" + value + " + 0), '''')";
    }
    boolean bytes = type.contains("blob") || type.contains("binary");
    return bytes
        ? "concat('x''', hex(" + value + "), '''')"
        : "if(" + value + " IS NULL, NULL, quote(" + value + "))";
  }

  @Override
  public Optional<Lock> lock(SchemaChange change) {
    return MariadbLocks.of(change);
  }

  @Override
  public Alteration alteration(SchemaChange change) {
    if (change instanceof SchemaChange.Create create && refusal(create.object()).isPresent()) {
      return Alteration.notPossible(refusal(create.object()).get());
    }
    if (change instanceof SchemaChange.Drop drop && drop.object() instanceof OtherObject) {
      return Alteration.notPossible("it is named here, and not read further");
    }
    if (change instanceof SchemaChange.AlterPart alter) {
      return alter.before() instanceof Column before
          ? ofColumn(before, (Column) alter.after())
          : Alteration.RECREATE;
    }
    return change instanceof SchemaChange.Alter alter ? ofObject(alter) : Alteration.IN_PLACE;
  }

  private static Alteration ofColumn(Column before, Column after) {
    boolean was = before.more(Column.GENERATED).isPresent();
    boolean is = after.more(Column.GENERATED).isPresent();
    if (was && is && !before.more(Column.GENERATED).equals(after.more(Column.GENERATED))) {
      return Alteration.RECREATE;
    }
    return !was && is
        ? Alteration.notPossible("a column with values cannot become a computed one in place")
        : Alteration.IN_PLACE;
  }

  private Alteration ofObject(SchemaChange.Alter alter) {
    if (refusal(alter.after()).isPresent()) {
      return Alteration.notPossible(refusal(alter.after()).get());
    }
    return switch (alter.after().kind()) {
      case TABLE, SEQUENCE, OWNER, GRANT, VIEW -> Alteration.IN_PLACE;
      default -> Alteration.RECREATE;
    };
  }

  /** A view may stay over what changes, but not be made before what it needs; keys may not. */
  @Override
  public boolean tolerates(SchemaChange change, DatabaseObject dependent, Optional<Part> part) {
    if (part.filter(ForeignKey.class::isInstance).isPresent()) {
      return change instanceof SchemaChange.AlterPart alter && !reshapes(alter);
    }
    if (part.filter(
            one -> one instanceof Column column && column.more(Column.GENERATED).isPresent())
        .isPresent()) {
      return change instanceof SchemaChange.AlterPart;
    }
    return part.isEmpty()
        && !(change instanceof SchemaChange.Drop && dependent.kind() == Kind.TRIGGER);
  }

  /** The index that the server made for a foreign key stays behind when the key goes. */
  @Override
  public List<SchemaChange> alongWith(
      SchemaChange change, Optional<DatabaseObject> before, Optional<DatabaseObject> after) {
    if (!(change instanceof SchemaChange.DropPart drop)
        || !(drop.part() instanceof ForeignKey key)
        || !(before.orElse(null) instanceof Table was)
        || !(after.orElse(null) instanceof Table is)) {
      return List.of();
    }
    return was.indexes().stream()
        .filter(index -> index.fromConstraint() && index.name().equals(key.knownAs()))
        .filter(index -> !isNeeded(index, is))
        .map(index -> (SchemaChange) new SchemaChange.DropPart(drop.target(), index))
        .toList();
  }

  private static boolean isNeeded(Index index, Table table) {
    return table.indexes().stream()
            .anyMatch(one -> !one.fromConstraint() && one.name().equals(index.name()))
        || table.foreignKeys().stream()
            .anyMatch(
                key ->
                    key.columns().size() <= index.columns().size()
                        && index.columns().subList(0, key.columns().size()).equals(key.columns()));
  }

  @Override
  public boolean placesColumns() {
    return true;
  }

  @Override
  public boolean isInside(DatabaseObject object, Part part) {
    return !(part instanceof ForeignKey);
  }

  @Override
  protected List<String> createTable(Table table) {
    List<String> inside = inside(table);
    table.indexes().stream()
        .filter(index -> !index.fromConstraint())
        .forEach(index -> inside.add(key(index)));
    List<String> rows =
        table.columns().stream()
            .filter(MariadbDdl::isOfRow)
            .sorted(Comparator.comparing(column -> column.more(Column.GENERATED).orElse("")))
            .map(column -> name(column.name()))
            .toList();
    if (!rows.isEmpty()) {
      inside.add("PERIOD FOR SYSTEM_TIME (" + rows.get(1) + ", " + rows.get(0) + ")");
    }
    return List.of("CREATE TABLE " + name(table.id()) + lines(inside) + options(table));
  }

  private static boolean isOfRow(Column column) {
    return column.more(Column.GENERATED).filter(how -> how.startsWith(ROW)).isPresent();
  }

  private String options(Table table) {
    StringBuilder text = new StringBuilder();
    table.option(ENGINE).ifPresent(engine -> text.append(" ENGINE = ").append(engine));
    table.option(COLLATION).ifPresent(name -> text.append(collation(name)));
    table.option(STORAGE_OPTIONS).ifPresent(more -> text.append(' ').append(more));
    table.option(Facts.COMMENT).ifPresent(words -> text.append(" COMMENT = ").append(text(words)));
    table.option(VERSIONED).ifPresent(yes -> text.append(" WITH SYSTEM VERSIONING"));
    table.option(PARTITIONS).ifPresent(how -> text.append(' ').append(how));
    return text.toString();
  }

  private static String collation(String name) {
    return " DEFAULT CHARSET = " + charset(name) + " COLLATE = " + name;
  }

  /** A collation's name begins with its character set's. */
  static String charset(String collation) {
    int end = collation.indexOf('_');
    return end < 0 ? collation : collation.substring(0, end);
  }

  @Override
  protected List<String> create(DatabaseObject object) {
    if (object instanceof Right right) {
      return List.of(grant(right));
    }
    if (object instanceof Sequence sequence) {
      return List.of(
          "CREATE SEQUENCE " + name(sequence.id()) + counting(sequence) + options(sequence));
    }
    return super.create(object);
  }

  private static String counting(Sequence sequence) {
    Map<String, String> settings = sequence.settings();
    return " START WITH "
        + settings.get(Sequence.START)
        + " MINVALUE "
        + settings.get(Sequence.MINIMUM)
        + " MAXVALUE "
        + settings.get(Sequence.MAXIMUM)
        + " INCREMENT BY "
        + settings.get(Sequence.INCREMENT)
        + " CACHE "
        + settings.get(Sequence.CACHE)
        + (settings.containsKey(Sequence.CYCLE) ? " CYCLE" : " NOCYCLE");
  }

  private String options(Sequence sequence) {
    StringBuilder text = new StringBuilder();
    sequence.fact(ENGINE).ifPresent(engine -> text.append(" ENGINE = ").append(engine));
    sequence.fact(Facts.COMMENT).ifPresent(words -> text.append(" COMMENT = ").append(text(words)));
    return text.toString();
  }

  private static String grant(Right right) {
    String options = right.said().contains(Right.GRANTABLE) ? " WITH GRANT OPTION" : "";
    return "GRANT "
        + right.said().replace(Right.GRANTABLE, "")
        + on(right)
        + " TO "
        + right.grantee()
        + options;
  }

  /** A database's rights are on all that is in it. */
  private static String on(Right right) {
    return " ON "
        + (right.object().kind() == Kind.TABLE
            ? MariadbEngine.QUOTING.name(right.object().name())
            : "*");
  }

  /** An index inside a table's statement. */
  private String key(Index index) {
    String definition = index.definition();
    int end = definition.indexOf(" USING ");
    int at = end < 0 ? definition.indexOf(" (") : end;
    return definition.substring(0, at) + " " + name(index.name()) + definition.substring(at);
  }

  @Override
  protected String createIndex(Index index, ObjectId table) {
    return alterTable(table) + "ADD " + key(index);
  }

  @Override
  protected String column(Column column) {
    StringBuilder text = new StringBuilder(name(column.name()));
    text.append(' ').append(column.type());
    column
        .more(Column.COLLATION)
        .ifPresent(
            name ->
                text.append(" CHARACTER SET ")
                    .append(charset(name))
                    .append(" COLLATE ")
                    .append(name));
    Optional<String> row = column.more(Column.GENERATED).filter(how -> how.startsWith(ROW));
    Optional<String> computed = computed(column);
    if (row.isPresent()) {
      text.append(" GENERATED ALWAYS AS ").append(row.get());
    } else if (computed.isPresent()) {
      text.append(" GENERATED ALWAYS AS ").append(computed.get());
      text.append(isStored(column) ? " STORED" : " VIRTUAL");
      text.append(server.isMysql() && !column.nullable() ? " NOT NULL" : "");
    } else {
      // A timestamp that nothing is said of is NOT NULL in older versions.
      text.append(column.nullable() ? " NULL" : " NOT NULL");
    }
    column.defaultValue().ifPresent(value -> text.append(" DEFAULT ").append(value));
    column.more(Column.IDENTITY).ifPresent(how -> text.append(" AUTO_INCREMENT"));
    column.more(MariadbStructure.EXTRA).ifPresent(more -> text.append(' ').append(more));
    column.more(Facts.COMMENT).ifPresent(words -> text.append(" COMMENT ").append(text(words)));
    column.more(CHECK).ifPresent(what -> text.append(" CHECK (").append(what).append(')'));
    return text.toString();
  }

  @Override
  protected List<String> alter(DatabaseObject before, DatabaseObject after) {
    if (after instanceof Table table) {
      return alterTable((Table) before, table);
    }
    if (after instanceof Sequence sequence) {
      return alterSequence((Sequence) before, sequence);
    }
    if (after instanceof Right right) {
      return List.of(drop(before), grant(right));
    }
    String definition = ((DefinedObject) after).definition();
    return List.of(definition.replaceFirst("^CREATE ", "CREATE OR REPLACE "));
  }

  /** Its position stays. */
  private List<String> alterSequence(Sequence before, Sequence after) {
    List<String> statements = new ArrayList<>();
    Map<String, String> changed = new TreeMap<>(after.settings());
    changed.entrySet().removeAll(before.settings().entrySet());
    boolean stops = SequenceClauses.stopsCycling(before, after);
    if (!changed.isEmpty() || stops) {
      statements.add(
          "ALTER SEQUENCE "
              + name(after.id())
              + SequenceClauses.of(changed)
              + (stops ? " NOCYCLE" : ""));
    }
    if (!before.fact(Facts.COMMENT).equals(after.fact(Facts.COMMENT))) {
      statements.add("ALTER TABLE " + name(after.id()) + commentOf(after));
    }
    return statements;
  }

  private String commentOf(DatabaseObject object) {
    return " COMMENT = " + text(object.fact(Facts.COMMENT).orElse(""));
  }

  private List<String> alterTable(Table before, Table after) {
    String alter = alterTable(after.id());
    List<String> statements = new ArrayList<>();
    for (String word : changed(before, after)) {
      Optional<String> now = after.option(word);
      switch (word) {
        case Facts.COMMENT -> statements.add(alter.stripTrailing() + commentOf(after));
        case ENGINE -> statements.add(alter + "ENGINE = " + now.orElse("InnoDB"));
        case COLLATION -> statements.add(alter + collation(now.orElse("")).strip());
        case STORAGE_OPTIONS ->
            statements.add(alter + MariadbSettings.options(before.option(word), now));
        case VERSIONED ->
            statements.add(alter + (now.isPresent() ? "ADD" : "DROP") + " SYSTEM VERSIONING");
        case PARTITIONS -> statements.add(alter + now.orElse("REMOVE PARTITIONING"));
        default -> {
          // The order of columns is changed column by column.
        }
      }
    }
    return statements;
  }

  @Override
  protected List<String> addColumn(
      ObjectId owner, Column column, Optional<SchemaChange.Position> position) {
    return List.of(alterTable(owner) + "ADD COLUMN " + column(column) + place(position));
  }

  private String place(Optional<SchemaChange.Position> position) {
    return position
        .map(place -> place.after().map(column -> " AFTER " + name(column)).orElse(" FIRST"))
        .orElse("");
  }

  @Override
  protected List<String> alterPart(SchemaChange.AlterPart change) {
    String column = column((Column) change.after()) + place(change.position());
    return List.of(alterTable(change.target()) + "MODIFY COLUMN " + column);
  }

  @Override
  protected List<String> dropPart(ObjectId owner, Part part) {
    String drop = alterTable(owner) + "DROP ";
    if (part instanceof Column) {
      return super.dropPart(owner, part);
    }
    if (part instanceof PrimaryKey) {
      return List.of(drop + "PRIMARY KEY");
    }
    if (part instanceof Index) {
      return List.of(drop + "INDEX " + name(part.name()));
    }
    String name = name(knownName(part).orElse(""));
    return List.of(drop + (part instanceof ForeignKey ? "FOREIGN KEY " : "CONSTRAINT ") + name);
  }

  @Override
  protected String drop(DatabaseObject object) {
    if (object instanceof Right right) {
      return "REVOKE "
          + right.said().replace(Right.GRANTABLE, "")
          + (right.said().contains(Right.GRANTABLE) ? ", GRANT OPTION" : "")
          + on(right)
          + " FROM "
          + right.grantee();
    }
    return super.drop(object);
  }

  /** No comments of their own: these are part of what they are on. */
  @Override
  protected List<String> aside(DatabaseObject object) {
    return List.of();
  }

  MariadbSettings settings() {
    return new MariadbSettings(this::text);
  }

  /** How the statements begin that change a table. */
  String beginning(ObjectId table) {
    return alterTable(table);
  }

  @Override
  public List<String> script(List<SchemaChange> ordered) {
    return new MariadbScript(this).of(ordered);
  }
}
