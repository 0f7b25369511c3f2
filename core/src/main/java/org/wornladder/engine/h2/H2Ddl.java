package org.wornladder.engine.h2;

import java.util.ArrayList;
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
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.DomainType;
import org.wornladder.schema.Facts;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.OtherObject;
import org.wornladder.schema.Part;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Sequence;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.sql.Dialects;

/** Writes changes of structures for H2 (H2 documentation, "Commands"). */
final class H2Ddl extends SqlDdl {
  static final String ON_UPDATE = "on update";

  /** What a column is of; its type is the one that this depends on. */
  static final String DOMAIN = "domain";

  static final String INVISIBLE = "invisible";
  static final String ON_NULL = "default on null";

  private static final String INDEX = " INDEX";

  H2Ddl() {
    super(Dialects.H2, H2Engine.QUOTING, Letters.CAPITAL);
  }

  /** In the database's file (H2's manual, "DISK_SPACE_USED"). */
  @Override
  public Optional<String> size(ObjectId table) {
    return Optional.of("SELECT disk_space_used(" + text(name(table)) + ")");
  }

  @Override
  public String literal(Column column) {
    String value = name(column.name());
    String type = column.type();
    if (type.startsWith("BINARY")) {
      return "'X''' || rawtohex(" + value + ") || ''''";
    }
    String text = "'''' || replace(CAST(" + value + " AS varchar), '''', '''''') || ''''";
    return type.equals("JSON") ? "'JSON ' || " + text : text;
  }

  @Override
  protected String overriding() {
    return " OVERRIDING SYSTEM VALUE";
  }

  @Override
  public Optional<String> counters(Snapshot structure) {
    return Optional.of(
        "SELECT 'ALTER TABLE ' || quote_ident(table_name) || ' ALTER COLUMN ' ||"
            + " quote_ident(column_name) || ' RESTART WITH ' || identity_base FROM"
            + " information_schema.columns WHERE table_schema = current_schema AND is_identity ="
            + " 'YES' UNION ALL SELECT 'ALTER SEQUENCE ' || quote_ident(sequence_name) ||"
            + " ' RESTART WITH ' || base_value FROM information_schema.sequences WHERE"
            + " sequence_schema = current_schema AND base_value <> start_value ORDER BY 1");
  }

  /** H2 copies a table for most changes of its columns (H2's manual, "ALTER TABLE"). */
  @Override
  public Optional<Lock> lock(SchemaChange change) {
    boolean columns =
        change instanceof SchemaChange.AddPart add && add.part() instanceof Column
            || change instanceof SchemaChange.DropPart drop && drop.part() instanceof Column
            || change instanceof SchemaChange.AlterPart alter
                && alter.before() instanceof Column was
                && alter.after() instanceof Column is
                && !was.type().equals(is.type());
    return columns && change.target().kind() == Kind.TABLE
        ? Optional.of(Lock.of("the table is copied: readers and writers wait"))
        : Optional.empty();
  }

  @Override
  public Alteration alteration(SchemaChange change) {
    if (change instanceof SchemaChange.Create create && refusal(create.object()).isPresent()) {
      return Alteration.notPossible(refusal(create.object()).get());
    }
    if (change instanceof SchemaChange.Drop drop && drop.object() instanceof OtherObject) {
      return Alteration.IN_PLACE;
    }
    if (change instanceof SchemaChange.AlterPart alter) {
      return ofPart(alter);
    }
    return change instanceof SchemaChange.Alter alter ? ofObject(alter) : Alteration.IN_PLACE;
  }

  private static Alteration ofPart(SchemaChange.AlterPart alter) {
    List<String> changed = changed(alter.before(), alter.after());
    if (isComment(changed)) {
      return Alteration.IN_PLACE;
    }
    if (!(alter.before() instanceof Column before)) {
      return Alteration.RECREATE;
    }
    if (!changed.contains(Column.GENERATED)) {
      return Alteration.IN_PLACE;
    }
    boolean both =
        before.more(Column.GENERATED).isPresent()
            && alter.after().fact(Column.GENERATED).isPresent();
    return both
        ? Alteration.RECREATE
        : Alteration.notPossible("a column with values cannot become a computed one in place");
  }

  private static Alteration ofObject(SchemaChange.Alter alter) {
    List<String> changed = changed(alter.before(), alter.after());
    if (changed.contains("column order")) {
      return Alteration.notPossible("H2 has no statement that moves a column");
    }
    return switch (alter.after().kind()) {
      case TABLE -> Alteration.IN_PLACE;
      case SEQUENCE -> changed.contains(Sequence.TYPE) ? Alteration.RECREATE : Alteration.IN_PLACE;
      default -> isComment(changed) ? Alteration.IN_PLACE : Alteration.RECREATE;
    };
  }

  @Override
  public boolean tolerates(SchemaChange change, DatabaseObject dependent, Optional<Part> part) {
    boolean reshaped =
        !(change instanceof SchemaChange.AlterPart alter)
            || (reshapes(alter) && alter.before() instanceof Column);
    boolean computed = part.filter(one -> one.fact(Column.GENERATED).isPresent()).isPresent();
    boolean ofTable = change instanceof SchemaChange.AlterPart && part.isPresent() && !computed;
    return !reshaped || ofTable;
  }

  @Override
  public boolean placesColumns() {
    return true;
  }

  @Override
  public boolean isInside(DatabaseObject object, Part part) {
    return !(part instanceof ForeignKey) && !(part instanceof Index);
  }

  @Override
  protected List<String> createTable(Table table) {
    List<String> statements = new ArrayList<>();
    statements.add("CREATE TABLE " + name(table.id()) + lines(inside(table)));
    statements.addAll(comments(table));
    return statements;
  }

  @Override
  protected List<String> create(DatabaseObject object) {
    List<String> statements = new ArrayList<>();
    if (object instanceof Sequence sequence) {
      statements.add(
          "CREATE SEQUENCE " + name(sequence.id()) + SequenceClauses.of(sequence.settings()));
    } else if (object instanceof DomainType type) {
      statements.add(domain(type));
    } else {
      return super.create(object);
    }
    statements.addAll(aside(object));
    return statements;
  }

  private String domain(DomainType type) {
    StringBuilder text = new StringBuilder("CREATE DOMAIN ");
    text.append(name(type.id())).append(" AS ").append(type.type());
    type.more(Column.DEFAULT).ifPresent(value -> text.append(" DEFAULT ").append(value));
    type.checks().forEach(check -> text.append(' ').append(constraint(check)));
    return text.toString();
  }

  @Override
  protected List<String> aside(DatabaseObject object) {
    return comment(word(object.kind()) + " " + name(object.id()), object);
  }

  private static String word(Kind kind) {
    return kind == Kind.FUNCTION || kind == Kind.PROCEDURE ? "ALIAS" : sqlWord(kind);
  }

  @Override
  protected String drop(DatabaseObject object) {
    return object.kind() == Kind.OTHER
        ? "DROP CONSTANT " + name(object.id().name().substring("constant ".length()))
        : "DROP " + word(object.kind()) + " " + name(object.id());
  }

  @Override
  protected List<String> alter(DatabaseObject before, DatabaseObject after) {
    List<String> statements = new ArrayList<>();
    if (changed(before, after).contains(Facts.COMMENT)) {
      String object = word(after.kind()) + " " + name(after.id());
      statements.add(commenting(object, Optional.of(after.fact(Facts.COMMENT).orElse(""))));
    }
    if (after instanceof Sequence sequence
        && !sequence.settings().equals(((Sequence) before).settings())) {
      Map<String, String> changed = new TreeMap<>(sequence.settings());
      changed.entrySet().removeAll(((Sequence) before).settings().entrySet());
      boolean stops = SequenceClauses.stopsCycling((Sequence) before, sequence);
      statements.add(
          "ALTER SEQUENCE "
              + name(sequence.id())
              + SequenceClauses.of(changed)
              + (stops ? " NO CYCLE" : ""));
    }
    return statements;
  }

  @Override
  protected String column(Column column) {
    StringBuilder text = new StringBuilder(name(column.name()));
    text.append(' ').append(typeOf(column));
    column.more(INVISIBLE).ifPresent(yes -> text.append(" INVISIBLE"));
    computed(column).ifPresent(how -> text.append(" GENERATED ALWAYS AS ").append(how));
    column
        .more(Column.IDENTITY)
        .ifPresent(
            how ->
                text.append(" GENERATED ")
                    .append(how.startsWith("always") ? "ALWAYS" : "BY DEFAULT")
                    .append(" AS IDENTITY")
                    .append(how.contains("(") ? how.substring(how.indexOf('(')) : ""));
    column.defaultValue().ifPresent(value -> text.append(" DEFAULT ").append(value));
    column.more(ON_UPDATE).ifPresent(value -> text.append(" ON UPDATE ").append(value));
    column.more(ON_NULL).ifPresent(yes -> text.append(" DEFAULT ON NULL"));
    return text + (column.nullable() ? "" : " NOT NULL");
  }

  private static String typeOf(Column column) {
    return column.more(DOMAIN).orElse(column.type());
  }

  /** A name that H2 invented it may need for another key, and that cannot be known beforehand. */
  @Override
  protected Optional<String> lastingName(Part constraint) {
    return chosenName(constraint);
  }

  @Override
  protected String createIndex(Index index, ObjectId table) {
    String definition = index.definition();
    int at = definition.indexOf(INDEX) + INDEX.length();
    return definition.substring(0, at)
        + " "
        + name(index.name())
        + " ON "
        + name(table)
        + definition.substring(at);
  }

  @Override
  protected String partForComment(Part part, ObjectId owner) {
    return part instanceof Column || part instanceof Index
        ? super.partForComment(part, owner)
        : "CONSTRAINT " + name(knownName(part).orElse(""));
  }

  @Override
  protected List<String> addColumn(
      ObjectId owner, Column column, Optional<SchemaChange.Position> position) {
    List<String> statements = new ArrayList<>();
    String place =
        position
            .map(
                one ->
                    one.after().isPresent()
                        ? " AFTER " + name(one.after().get())
                        : " BEFORE " + name(one.first()))
            .orElse("");
    statements.add(alterTable(owner) + "ADD COLUMN " + column(column) + place);
    statements.addAll(comment(partForComment(column, owner), column));
    return statements;
  }

  @Override
  protected List<String> dropPart(ObjectId owner, Part part) {
    return part instanceof PrimaryKey
        ? List.of(alterTable(owner) + "DROP PRIMARY KEY")
        : super.dropPart(owner, part);
  }

  @Override
  protected List<String> alterPart(SchemaChange.AlterPart change) {
    List<String> changed = changed(change.before(), change.after());
    List<String> statements = new ArrayList<>();
    if (change.after() instanceof Column after) {
      String alter = alterTable(change.target()) + "ALTER COLUMN " + name(after.name()) + " ";
      statements.addAll(alter(alter, changed, (Column) change.before(), after));
    }
    if (changed.contains(Facts.COMMENT)) {
      statements.add(
          commenting(
              partForComment(change.after(), change.target()),
              Optional.of(change.after().fact(Facts.COMMENT).orElse(""))));
    }
    return statements;
  }

  private List<String> alter(String alter, List<String> changed, Column before, Column after) {
    List<String> clauses = new ArrayList<>();
    if (changed.contains(Column.IDENTITY) && after.more(Column.IDENTITY).isEmpty()) {
      clauses.add("DROP IDENTITY");
    }
    if (changed.contains(Column.TYPE) || changed.contains(DOMAIN)) {
      clauses.add("SET DATA TYPE " + typeOf(after));
    }
    if (changed.contains(Column.IDENTITY) && after.more(Column.IDENTITY).isPresent()) {
      clauses.add(column(after).substring(name(after.name()).length() + 1));
    }
    if (changed.contains(Column.NULLABLE)) {
      clauses.add(after.nullable() ? "DROP NOT NULL" : "SET NOT NULL");
    }
    if (changed.contains(Column.DEFAULT)) {
      clauses.add(after.defaultValue().map(now -> "SET DEFAULT " + now).orElse("DROP DEFAULT"));
    }
    if (changed.contains(INVISIBLE)) {
      clauses.add(after.more(INVISIBLE).isPresent() ? "SET INVISIBLE" : "SET VISIBLE");
    }
    if (changed.contains(ON_NULL)) {
      clauses.add((after.more(ON_NULL).isPresent() ? "SET" : "DROP") + " DEFAULT ON NULL");
    }
    if (changed.contains(ON_UPDATE)) {
      clauses.add(
          after.more(ON_UPDATE).map(now -> "SET ON UPDATE " + now).orElse("DROP ON UPDATE"));
    }
    return clauses.stream().map(alter::concat).toList();
  }
}
