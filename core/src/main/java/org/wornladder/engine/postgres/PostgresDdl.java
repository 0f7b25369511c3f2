package org.wornladder.engine.postgres;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.wornladder.change.Alteration;
import org.wornladder.change.GentleStatement;
import org.wornladder.change.Lock;
import org.wornladder.change.SchemaChange;
import org.wornladder.engine.SqlDdl;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.DefinedObject;
import org.wornladder.schema.DomainType;
import org.wornladder.schema.EnumType;
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
import org.wornladder.schema.Trigger;
import org.wornladder.sql.Dialects;

/** Writes changes of structures for PostgreSQL (manual, part VI, "SQL Commands"). */
final class PostgresDdl extends SqlDdl {
  static final String INHERITS = "inherits";
  static final String BOUND = Table.PARTITION_BOUND;
  static final String ATTACHED = "attached";
  static final String REPLICA_IDENTITY = "replica identity";
  static final String OF_TYPE = "of type";
  static final String PARTITIONED_BY = "partitioned by";
  static final String UNLOGGED = "unlogged";
  static final String STORAGE_OPTIONS = "storage options";
  static final String ROW_SECURITY = "row security";

  /** Of a column that a table has from another one alone. */
  static final String INHERITED = "inherited";

  /** Of a column whose parents' may be null. */
  static final String NOT_NULL = "not null";

  static final String STORAGE = "storage";
  static final String STATISTICS = "statistics target";
  static final String OPTIONS = "options";
  static final String VERSION = "version";

  /** How the word begins for the comment on a view's column. */
  static final String COMMENT_ON = "comment on column ";

  private static final String INDEX = " INDEX";
  private static final String UNCHECKED = "SET check_function_bodies = off";
  private static final String INVALID = " (not valid)";
  private static final String NOT_VALID = " NOT VALID";
  private static final String USING_INDEX = "USING INDEX";
  private static final int LONGEST_NAME = 63;

  private final List<String> schemas;
  private final PostgresColumnDdl columns;
  private final PostgresRightDdl rights;
  private final PostgresTypeDdl types;

  /**
   * @param schemas the managed ones; names in the first stand alone
   */
  PostgresDdl(List<String> schemas) {
    super(Dialects.POSTGRES, PostgresEngine.QUOTING, Letters.SMALL);
    this.schemas = List.copyOf(schemas);
    columns = new PostgresColumnDdl(this::name, this::name);
    rights = new PostgresRightDdl(this::object, this::name);
    types = new PostgresTypeDdl(this::name, this::name, columns, this::constraint);
  }

  /** A routine may speak of what is made behind it. */
  @Override
  public List<String> preamble(Collection<SchemaChange> changes) {
    boolean routines =
        changes.stream()
            .filter(change -> !(change instanceof SchemaChange.Drop))
            .map(change -> change.target().kind())
            .anyMatch(kind -> kind == Kind.FUNCTION || kind == Kind.PROCEDURE);
    return routines ? List.of(UNCHECKED) : List.of();
  }

  @Override
  public List<String> clientSession() {
    return schemas.equals(List.of("public"))
        ? List.of()
        : List.of("SET search_path = " + PostgresEngine.QUOTING.names(schemas));
  }

  /** As text: an operator that a user planted may fit another type better. */
  @Override
  protected String comparable(String expression) {
    return "CAST(" + expression + " AS text)";
  }

  @Override
  protected String length(String expression) {
    return "pg_catalog.length(CAST(" + expression + " AS text))";
  }

  /** With indexes and large values (PostgreSQL manual, "Database Object Size Functions"). */
  @Override
  public Optional<String> size(ObjectId table) {
    return Optional.of(
        "SELECT pg_catalog.pg_total_relation_size(" + text(name(table)) + "::pg_catalog.regclass)");
  }

  @Override
  public GentleStatement gentle(String statement) {
    return PostgresGentle.of(statement);
  }

  /** An operator of this name that a user made may fit the type better. */
  /** Every new version of a row has a place of its own (manual, "System Columns"). */
  @Override
  public Optional<RowPlace> rowPlace(Table table) {
    return Optional.of(
        new RowPlace(new Column("ctid", "tid", false, Optional.empty(), Map.of()), true));
  }

  @Override
  public String behind(String value, String other) {
    return value + " OPERATOR(pg_catalog.>) " + other;
  }

  @Override
  public String upTo(String value, String other) {
    return value + " OPERATOR(pg_catalog.<=) " + other;
  }

  /** Every type takes its own text back (PostgreSQL manual, "String Constants"). */
  @Override
  public String literal(Column column) {
    return "pg_catalog.quote_literal(" + name(column.name()) + "::pg_catalog.text)";
  }

  @Override
  protected String overriding() {
    return " OVERRIDING SYSTEM VALUE";
  }

  @Override
  public Optional<String> counters(Snapshot structure) {
    return Optional.of(
        "SELECT 'SELECT pg_catalog.setval(' || pg_catalog.quote_literal(CASE WHEN"
            + " s.schemaname = pg_catalog.current_schema() THEN '' ELSE"
            + " pg_catalog.quote_ident(s.schemaname) || '.' END ||"
            + " pg_catalog.quote_ident(s.sequencename)) || ', ' || s.last_value || ')'"
            + " FROM pg_catalog.pg_sequences s WHERE s.last_value IS NOT NULL"
            + " ORDER BY s.schemaname, s.sequencename");
  }

  @Override
  public Optional<Lock> lock(SchemaChange change) {
    return PostgresLocks.of(change);
  }

  @Override
  public Alteration alteration(SchemaChange change) {
    if (change instanceof SchemaChange.Create create && refusal(create.object()).isPresent()) {
      return Alteration.notPossible(refusal(create.object()).get());
    }
    return PostgresAlterations.of(change);
  }

  @Override
  public boolean tolerates(SchemaChange change, DatabaseObject dependent, Optional<Part> part) {
    return PostgresAlterations.tolerates(change, dependent, part);
  }

  @Override
  public boolean isInside(DatabaseObject object, Part part) {
    return !(part instanceof ForeignKey)
        && !(part instanceof Index)
        && !(part instanceof Constraint one && one.definition().endsWith(NOT_VALID));
  }

  @Override
  public DatabaseObject firstVersion(DatabaseObject object) {
    if (object instanceof Sequence one && one.ownerTable().isPresent()) {
      return new Sequence(
          one.id(), one.settings(), Optional.empty(), "", one.more(), one.dependsOn());
    }
    boolean byIndex =
        object.fact(REPLICA_IDENTITY).filter(how -> how.startsWith(USING_INDEX)).isPresent();
    if (byIndex) {
      Map<String, String> facts = new TreeMap<>(object.facts());
      facts.remove(REPLICA_IDENTITY);
      return object.with(facts, object.storedParts());
    }
    return object;
  }

  /** PostgreSQL manual, "SELECT", "ONLY": a partitioned table has no rows of its own. */
  @Override
  public String rowsOf(Table table) {
    String name = name(table.id());
    return table.option(PARTITIONED_BY).isPresent() ? name : "ONLY " + name;
  }

  @Override
  public List<ObjectId> parents(Table table) {
    return table.dependsOn().stream()
        .map(dependency -> dependency.target())
        .filter(target -> target.kind() == Kind.TABLE)
        .toList();
  }

  @Override
  public List<Right> defaultRights(DatabaseObject object) {
    return PostgresRightDdl.byDefault(object.id(), PostgresRights.label(object.id()));
  }

  @Override
  protected List<String> create(DatabaseObject object) {
    if (object instanceof Right right) {
      return rights.give(right);
    }
    Optional<String> statement = types.create(object);
    if (statement.isEmpty()) {
      return super.create(object);
    }
    List<String> statements = new ArrayList<>(List.of(statement.get()));
    statements.addAll(aside(object));
    return statements;
  }

  @Override
  protected List<String> createTable(Table table) {
    List<String> inside = new ArrayList<>();
    List<String> then = new ArrayList<>();
    for (Part part : table.parts()) {
      if (part instanceof Column column) {
        columns.inTable(table, column).ifPresent(inside::add);
        then.addAll(columns.settings(table, column));
      } else {
        inside.add(constraint(part));
      }
    }
    List<String> statements = new ArrayList<>(List.of(statement(table, inside)));
    if (table.option(ATTACHED).isPresent()) {
      statements.add(
          "ALTER TABLE "
              + table.option(INHERITS).orElse("")
              + " ATTACH PARTITION "
              + name(table.id())
              + " "
              + table.option(BOUND).orElse(""));
    }
    statements.addAll(then);
    table
        .option(REPLICA_IDENTITY)
        .ifPresent(how -> statements.add(alterTable(table.id()) + identityOf(how)));
    table
        .option(ROW_SECURITY)
        .ifPresent(state -> statements.addAll(rowSecurity(table.id(), Optional.of(state))));
    statements.addAll(comments(table));
    return statements;
  }

  private String statement(Table table, List<String> inside) {
    StringBuilder text = new StringBuilder("CREATE ");
    text.append(table.option(UNLOGGED).isPresent() ? "UNLOGGED " : "").append("TABLE ");
    text.append(name(table.id()));
    Optional<String> bound =
        PostgresColumnDdl.isMadeAsPartition(table) ? table.option(BOUND) : Optional.empty();
    Optional<String> type = table.option(OF_TYPE);
    String parents = table.option(INHERITS).orElse("");
    if (bound.isPresent()) {
      text.append(" PARTITION OF ").append(parents).append(inside.isEmpty() ? "" : lines(inside));
      text.append(' ').append(bound.get());
    } else if (type.isPresent()) {
      text.append(" OF ").append(type.get()).append(inside.isEmpty() ? "" : lines(inside));
    } else {
      text.append(inside.isEmpty() ? " ()" : lines(inside));
      boolean heir = !parents.isEmpty() && table.option(ATTACHED).isEmpty();
      text.append(heir ? " INHERITS (" + parents + ")" : "");
    }
    table.option(PARTITIONED_BY).ifPresent(how -> text.append(" PARTITION BY ").append(how));
    table.option(STORAGE_OPTIONS).ifPresent(how -> text.append(" WITH (").append(how).append(")"));
    return text.toString();
  }

  private static String identityOf(String how) {
    return "REPLICA IDENTITY " + how;
  }

  private List<String> rowSecurity(ObjectId table, Optional<String> state) {
    String alter = alterTable(table);
    boolean forced = state.filter("forced"::equals).isPresent();
    List<String> statements = new ArrayList<>();
    statements.add(alter + (state.isPresent() ? "ENABLE" : "DISABLE") + " ROW LEVEL SECURITY");
    if (forced) {
      statements.add(alter + "FORCE ROW LEVEL SECURITY");
    }
    return statements;
  }

  @Override
  protected String column(Column column) {
    return columns.whole(column);
  }

  @Override
  protected String demand(Constraint constraint) {
    return constraint.statement();
  }

  @Override
  protected String partForComment(Part part, ObjectId owner) {
    if (part instanceof Column) {
      return super.partForComment(part, owner);
    }
    return part instanceof Index
        ? "INDEX " + inSchemaOf(owner) + name(part.name())
        : "CONSTRAINT "
            + name(keyName(part, owner))
            + " ON "
            + (owner.kind() == Kind.DOMAIN ? "DOMAIN " : "")
            + name(owner);
  }

  /** The name of a key or constraint; a primary key's is known where nobody chose it. */
  private static String keyName(Part key, ObjectId table) {
    return knownName(key)
        .orElseGet(
            () -> {
              int room = LONGEST_NAME - PostgresNames.KEY.length();
              String own = table.name();
              return own.substring(0, Math.min(own.length(), room)) + PostgresNames.KEY;
            });
  }

  private String inSchemaOf(ObjectId table) {
    return table.schema().isEmpty() ? "" : name(table.schema()) + ".";
  }

  @Override
  protected String createIndex(Index index, ObjectId table) {
    String definition = index.statement();
    int at = definition.indexOf(INDEX) + INDEX.length();
    String rest = definition.substring(at);
    return definition.substring(0, at)
        + " "
        + name(index.name())
        + " ON "
        + name(table)
        + (rest.endsWith(INVALID) ? rest.substring(0, rest.length() - INVALID.length()) : rest);
  }

  @Override
  protected List<String> aside(DatabaseObject object) {
    List<String> aside = new ArrayList<>();
    if (object instanceof Trigger trigger && trigger.more(Trigger.STATE).isPresent()) {
      aside.add(state(trigger));
    }
    aside.addAll(comment(object(object.id()), object));
    object.facts().keySet().stream()
        .filter(word -> word.startsWith(COMMENT_ON))
        .forEach(word -> aside.add(columnComment(object, word)));
    if (object instanceof DomainType type) {
      type.checks()
          .forEach(check -> aside.addAll(comment(partForComment(check, type.id()), check)));
    }
    return aside;
  }

  private String columnComment(DatabaseObject view, String word) {
    String column = name(view.id()) + "." + name(word.substring(COMMENT_ON.length()));
    return commenting("COLUMN " + column, view.fact(word));
  }

  private String state(Trigger trigger) {
    String how =
        switch (trigger.more(Trigger.STATE).orElse("")) {
          case "disabled" -> "DISABLE";
          case "always" -> "ENABLE ALWAYS";
          case "replica" -> "ENABLE REPLICA";
          default -> "ENABLE";
        };
    return alterTable(trigger.table()) + how + " TRIGGER " + name(trigger.id().name());
  }

  /** What a statement calls an object, its kind in front. */
  private String object(ObjectId id) {
    String word = sqlWord(id.kind()) + " ";
    return switch (id.kind()) {
      case FUNCTION, PROCEDURE -> word + name(id) + id.qualifier();
      case AGGREGATE -> word + name(id) + (id.qualifier().equals("()") ? "(*)" : id.qualifier());
      case TRIGGER, POLICY -> word + name(id.name()) + " ON " + onTable(id);
      default -> word + name(id);
    };
  }

  /** The table of a trigger or policy, which is in the schema that the identity has. */
  private String onTable(ObjectId id) {
    return inSchemaOf(id) + name(id.qualifier());
  }

  @Override
  protected String drop(DatabaseObject object) {
    if (object instanceof Right right) {
      return rights.take(right);
    }
    return "DROP " + object.fact(OtherObject.DROPPED_AS).orElseGet(() -> object(object.id()));
  }

  @Override
  protected List<String> alter(DatabaseObject before, DatabaseObject after) {
    List<String> statements = new ArrayList<>();
    List<String> changed = changed(before, after);
    if (after instanceof Right right) {
      if (right.kind() == Kind.GRANT) {
        statements.add(rights.take((Right) before));
      }
      statements.addAll(rights.give(right));
      return statements;
    }
    for (String word : changed) {
      if (word.equals(Facts.COMMENT)) {
        statements.add(commenting(object(after.id()), after.fact(word)));
      } else if (word.startsWith(COMMENT_ON)) {
        statements.add(columnComment(after, word));
      }
    }
    if (after instanceof Table table) {
      changed.forEach(word -> statements.addAll(alterTable((Table) before, table, word)));
    } else if (after instanceof Sequence
        || after instanceof EnumType
        || after instanceof DomainType) {
      statements.addAll(types.alter(before, after, changed));
    } else if (after instanceof Trigger trigger && changed.contains(Trigger.STATE)) {
      statements.add(state(trigger));
    } else if (changed.contains(Facts.DEFINITION)) {
      String definition = ((DefinedObject) after).statement();
      statements.add(definition.replaceFirst("^CREATE ", "CREATE OR REPLACE "));
    } else if (changed.contains(VERSION)) {
      statements.add(
          "ALTER EXTENSION "
              + name(after.id())
              + " UPDATE TO "
              + text(after.fact(VERSION).orElse("")));
    }
    return statements;
  }

  private List<String> alterTable(Table before, Table after, String word) {
    String alter = alterTable(after.id());
    return switch (word) {
      case REPLICA_IDENTITY ->
          List.of(alter + identityOf(after.option(REPLICA_IDENTITY).orElse("DEFAULT")));
      case ROW_SECURITY -> {
        List<String> statements =
            new ArrayList<>(rowSecurity(after.id(), after.option(ROW_SECURITY)));
        if (before.option(ROW_SECURITY).filter("forced"::equals).isPresent()) {
          statements.add(alter + "NO FORCE ROW LEVEL SECURITY");
        }
        yield statements;
      }
      case UNLOGGED ->
          List.of(alter + "SET " + (after.option(UNLOGGED).isPresent() ? "UNLOGGED" : "LOGGED"));
      case STORAGE_OPTIONS ->
          PostgresColumnDdl.options(
              alter, before.option(STORAGE_OPTIONS), after.option(STORAGE_OPTIONS));
      default -> List.of();
    };
  }

  @Override
  protected List<String> addColumn(
      ObjectId owner, Column column, Optional<SchemaChange.Position> position) {
    if (owner.kind() == Kind.COMPOSITE) {
      return List.of("ALTER TYPE " + name(owner) + " ADD ATTRIBUTE " + columns.attribute(column));
    }
    List<String> statements = new ArrayList<>(super.addColumn(owner, column, position));
    statements.addAll(columns.tuning(owner, column));
    statements.addAll(comment(partForComment(column, owner), column));
    return statements;
  }

  @Override
  protected List<String> dropPart(ObjectId owner, Part part) {
    if (owner.kind() == Kind.COMPOSITE) {
      return List.of("ALTER TYPE " + name(owner) + " DROP ATTRIBUTE " + name(part.name()));
    }
    if (part instanceof Index) {
      return List.of("DROP INDEX " + inSchemaOf(owner) + name(part.name()));
    }
    return part instanceof PrimaryKey
        ? List.of(alterTable(owner) + "DROP CONSTRAINT " + name(keyName(part, owner)))
        : super.dropPart(owner, part);
  }

  @Override
  protected List<String> alterPart(SchemaChange.AlterPart change) {
    if (change.target().kind() == Kind.COMPOSITE) {
      return List.of(
          "ALTER TYPE "
              + name(change.target())
              + " ALTER ATTRIBUTE "
              + columns.retypedAttribute((Column) change.after()));
    }
    List<String> statements = new ArrayList<>();
    if (change.before() instanceof Column before) {
      statements.addAll(columns.alter(change.target(), before, (Column) change.after()));
    }
    if (changed(change.before(), change.after()).contains(Facts.COMMENT)) {
      statements.add(
          commenting(
              partForComment(change.after(), change.target()), change.after().fact(Facts.COMMENT)));
    }
    return statements;
  }
}
