package org.wornladder.engine.postgres;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.wornladder.change.Difference;
import org.wornladder.engine.SqlDdl;
import org.wornladder.schema.Column;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.schema.SchemaObject;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.sql.Dialects;

/** Writes structures for PostgreSQL (manual, part VI, "SQL Commands"). */
final class PostgresDdl extends SqlDdl {
  static final String INHERITS = "inherits";
  static final String BOUND = Table.PARTITION_BOUND;
  static final String ATTACHED = "attached";
  static final String REPLICA_IDENTITY = "replica identity";
  static final String OF_TYPE = "of type";

  /** Of a column that a table has from another one alone. */
  static final String INHERITED = "inherited";

  /** Of a column whose parents' may be null. */
  static final String NOT_NULL = "not null";

  static final String STORAGE = "storage";
  static final String STATISTICS = "statistics target";
  static final String OPTIONS = "options";

  /** How the word begins for the comment on a view's column. */
  static final String COMMENT_ON = "comment on column ";

  private static final String INDEX = " INDEX";
  private static final String UNCHECKED = "SET check_function_bodies = off";
  private static final String INVALID = " (not valid)";
  private static final String NOT_VALID = " NOT VALID";
  private static final int LONGEST_NAME = 63;

  /** What parts names, outside of quotes. */
  private static final Pattern BETWEEN = Pattern.compile(", (?=(?:[^\"]*\"[^\"]*\")*[^\"]*$)");

  private final List<String> schemas;

  /**
   * @param schemas the managed ones; names in the first stand alone
   */
  PostgresDdl(List<String> schemas) {
    super(Dialects.POSTGRES, PostgresEngine.QUOTING, Letters.SMALL);
    this.schemas = List.copyOf(schemas);
  }

  /** A routine may speak of what is made behind it. */
  @Override
  public List<String> preamble(Collection<Element> elements) {
    for (Element element : elements) {
      if (element.kind() == Kind.FUNCTION || element.kind() == Kind.PROCEDURE) {
        return List.of(UNCHECKED);
      }
    }
    return List.of();
  }

  @Override
  protected String quoted(String named) {
    if (isElsewhere(named)) {
      return named;
    }
    Optional<String> schema = schemaOf(named);
    return schema.isPresent()
        ? name(schema.get()) + "." + name(named.substring(schema.get().length() + 1))
        : name(named);
  }

  private Optional<String> schemaOf(String named) {
    for (String schema : schemas.subList(Math.min(1, schemas.size()), schemas.size())) {
      if (named.startsWith(schema + ".")) {
        return Optional.of(schema);
      }
    }
    return Optional.empty();
  }

  private String alone(String named) {
    return schemaOf(named).map(schema -> named.substring(schema.length() + 1)).orElse(named);
  }

  @Override
  public Set<String> names(Element element) {
    return switch (element.kind()) {
      case FUNCTION, PROCEDURE, AGGREGATE -> Set.of(unquoted(routine(element)));
      case TRIGGER, POLICY -> Set.of();
      default -> Set.of(alone(element.name()));
    };
  }

  /** A routine's name as its own statement writes it. */
  private static String routine(Element element) {
    String definition = element.fact(Element.DEFINITION).orElse("");
    int start = definition.indexOf(' ', "CREATE ".length()) + 1;
    boolean inside = false;
    for (int i = start; i < definition.length(); i++) {
      inside ^= definition.charAt(i) == '"';
      if (!inside && definition.charAt(i) == '(') {
        return definition.substring(start, i);
      }
    }
    return definition.substring(Math.min(start, definition.length()));
  }

  private static String unquoted(String name) {
    String last = name.endsWith("\"") ? name : name.substring(name.lastIndexOf('.') + 1);
    int quote = last.lastIndexOf(".\"") + 1;
    String own = last.substring(last.startsWith("\"") && quote == 0 ? 0 : quote);
    return own.startsWith("\"") ? own.substring(1, own.length() - 1).replace("\"\"", "\"") : own;
  }

  /** A routine's name with the types that say it from others of that name. */
  private String signature(Element element) {
    String written = routine(element);
    String arguments = element.name().substring(element.name().indexOf('('));
    int bare = unquoted(written).length();
    boolean inOther = schemaOf(element.name()).isPresent();
    if (!inOther && element.name().length() > bare) {
      arguments = element.name().substring(bare);
    }
    return written + arguments;
  }

  @Override
  protected Creation table(Element table) {
    List<String> then = new ArrayList<>();
    List<String> last = new ArrayList<>();
    List<String> inside = new ArrayList<>();
    String alter = "ALTER TABLE " + quoted(table.name()) + " ";
    for (Element part : table.parts()) {
      switch (part.kind()) {
        case COLUMN -> ofTable(table, part).ifPresent(inside::add);
        case INDEX -> then.add(index(part, table.name()));
        case FOREIGN_KEY -> last.add(alter + "ADD " + constraint(part, table.name()));
        default -> {
          String words = constraint(part, table.name());
          if (words.endsWith(NOT_VALID)) {
            then.add(alter + "ADD " + words);
          } else {
            inside.add(words);
          }
        }
      }
    }
    for (Element column : table.parts()) {
      if (column.kind() == Kind.COLUMN) {
        then.addAll(settings(table, column));
      }
    }
    table.fact(REPLICA_IDENTITY).ifPresent(how -> then.add(alter + identityOf(how)));
    last.addAll(security(table, alter));
    last.addAll(comments(table));
    List<String> make = new ArrayList<>(List.of(statement(table, inside)));
    if (table.fact(ATTACHED).isPresent()) {
      String parent = "ALTER TABLE " + table.fact(INHERITS).orElse("");
      String bound = table.fact(BOUND).orElse("");
      make.add(parent + " ATTACH PARTITION " + quoted(table.name()) + " " + bound);
    }
    return new Creation(make, then, last);
  }

  private String statement(Element table, List<String> inside) {
    StringBuilder text = new StringBuilder("CREATE ");
    text.append(table.fact("unlogged").isPresent() ? "UNLOGGED " : "").append("TABLE ");
    text.append(quoted(table.name()));
    Optional<String> bound = isMadeAsPartition(table) ? table.fact(BOUND) : Optional.empty();
    Optional<String> type = table.fact(OF_TYPE);
    String parents = table.fact(INHERITS).orElse("");
    if (bound.isPresent()) {
      text.append(" PARTITION OF ").append(parents).append(inside.isEmpty() ? "" : lines(inside));
      text.append(' ').append(bound.get());
    } else if (type.isPresent()) {
      text.append(" OF ").append(type.get()).append(inside.isEmpty() ? "" : lines(inside));
    } else {
      text.append(inside.isEmpty() ? " ()" : lines(inside));
      boolean heir = !parents.isEmpty() && table.fact(ATTACHED).isEmpty();
      text.append(heir ? " INHERITS (" + parents + ")" : "");
    }
    table.fact("partitioned by").ifPresent(how -> text.append(" PARTITION BY ").append(how));
    table.fact("storage options").ifPresent(how -> text.append(" WITH (").append(how).append(")"));
    return text.toString();
  }

  private static boolean isMadeAsPartition(Element table) {
    return table.fact(BOUND).isPresent() && table.fact(ATTACHED).isEmpty();
  }

  /**
   * A column as its table's statement has it: a partition's and a typed table's are there already,
   * with a default or more of their own; one that is inherited is not there.
   */
  private Optional<String> ofTable(Element table, Element column) {
    boolean partition = isMadeAsPartition(table);
    if (!partition && table.fact(OF_TYPE).isEmpty()) {
      return column.fact(INHERITED).isPresent() ? Optional.empty() : Optional.of(column(column));
    }
    boolean plain = computed(column).isEmpty() && column.fact(Column.IDENTITY).isEmpty();
    String own =
        column.fact(DEFAULT).filter(value -> plain).map(value -> " DEFAULT " + value).orElse("");
    if (partition ? column.fact(NOT_NULL).isPresent() : !isNullable(column)) {
      own += " NOT NULL";
    }
    return own.isEmpty() ? Optional.empty() : Optional.of(name(column.name()) + own);
  }

  /** What a column's words in its table's statement cannot say. */
  private List<String> settings(Element table, Element column) {
    List<String> settings = new ArrayList<>();
    if (column.fact(INHERITED).isPresent() && table.fact(BOUND).isEmpty()) {
      column.fact(DEFAULT).ifPresent(value -> settings.add("SET DEFAULT " + value));
      column.fact(NOT_NULL).ifPresent(own -> settings.add("SET NOT NULL"));
    }
    settings.addAll(tuning(column));
    return altering(table.name(), column, settings);
  }

  private static List<String> tuning(Element column) {
    List<String> settings = new ArrayList<>();
    column.fact(STORAGE).ifPresent(how -> settings.add("SET STORAGE " + how));
    column.fact(STATISTICS).ifPresent(many -> settings.add("SET STATISTICS " + many));
    column.fact(OPTIONS).ifPresent(all -> settings.add("SET (" + all + ")"));
    return settings;
  }

  /** A statement for each setting of a column. */
  private List<String> altering(String table, Element column, List<String> settings) {
    if (settings.isEmpty()) {
      return settings;
    }
    String alter = "ALTER TABLE " + quoted(table) + " ALTER COLUMN " + name(column.name()) + " ";
    return settings.stream().map(setting -> alter + setting).toList();
  }

  private static String identityOf(String how) {
    return "REPLICA IDENTITY " + how;
  }

  private List<String> columnComments(Element view) {
    List<String> comments = new ArrayList<>();
    view.facts()
        .forEach(
            (word, words) -> {
              if (word.startsWith(COMMENT_ON)) {
                String column = columnName(view.name(), word.substring(COMMENT_ON.length()));
                comments.add(commenting(column, Optional.of(words)));
              }
            });
    return comments;
  }

  @Override
  protected String keyThing(Element key, String table) {
    return key.kind() == Kind.INDEX
        ? "INDEX " + inSchemaOf(table) + name(key.name())
        : "CONSTRAINT " + name(keyName(key, table)) + " ON " + quoted(table);
  }

  /** The name of a key or constraint; a primary key's is known where nobody chose it. */
  private String keyName(Element key, String table) {
    return known(key)
        .orElseGet(
            () -> {
              String own = alone(table);
              int room = LONGEST_NAME - PostgresNames.KEY.length();
              return own.substring(0, Math.min(own.length(), room)) + PostgresNames.KEY;
            });
  }

  private String inSchemaOf(String table) {
    return schemaOf(table).map(schema -> name(schema) + ".").orElse("");
  }

  private static List<String> security(Element table, String alter) {
    return table
        .fact("row security")
        .map(
            state ->
                state.equals("forced")
                    ? List.of(
                        alter + "ENABLE ROW LEVEL SECURITY", alter + "FORCE ROW LEVEL SECURITY")
                    : List.of(alter + "ENABLE ROW LEVEL SECURITY"))
        .orElse(List.of());
  }

  @Override
  protected String column(Element column) {
    StringBuilder text = new StringBuilder(name(column.name()));
    text.append(' ').append(column.fact(TYPE).orElse(""));
    column.fact(Column.COLLATION).ifPresent(name -> text.append(" COLLATE ").append(name));
    Optional<String> computed = computed(column);
    if (computed.isPresent()) {
      text.append(" GENERATED ALWAYS AS ").append(computed.get());
      text.append(isStored(column) ? " STORED" : " VIRTUAL");
    }
    column.fact(Column.IDENTITY).ifPresent(how -> text.append(identity(how)));
    column.fact(DEFAULT).ifPresent(value -> text.append(" DEFAULT ").append(value));
    return text + (isNullable(column) ? "" : " NOT NULL");
  }

  private static String identity(String how) {
    boolean always = how.startsWith("always");
    String options = how.contains("(") ? " " + how.substring(how.indexOf('(')) : "";
    return " GENERATED " + (always ? "ALWAYS" : "BY DEFAULT") + " AS IDENTITY" + options;
  }

  @Override
  protected String demand(Element constraint) {
    return constraint.fact(Element.DEFINITION).orElse("");
  }

  @Override
  protected String index(Element index, String table) {
    String definition = index.fact(Element.DEFINITION).orElse("");
    int at = definition.indexOf(INDEX) + INDEX.length();
    String rest = definition.substring(at);
    return definition.substring(0, at)
        + " "
        + name(index.name())
        + " ON "
        + quoted(table)
        + (rest.endsWith(INVALID) ? rest.substring(0, rest.length() - INVALID.length()) : rest);
  }

  @Override
  protected List<String> aside(Element element) {
    List<String> last = new ArrayList<>();
    element
        .fact(SchemaObject.OWNED_BY)
        .ifPresent(
            column -> last.add("ALTER SEQUENCE " + quoted(element.name()) + " OWNED BY " + column));
    element
        .fact(SchemaObject.STATE)
        .ifPresent(
            state ->
                last.add(
                    "ALTER TABLE "
                        + quoted(element.fact(Element.TABLE).orElse(""))
                        + switch (state) {
                          case "disabled" -> " DISABLE";
                          case "always" -> " ENABLE ALWAYS";
                          default -> " ENABLE REPLICA";
                        }
                        + " TRIGGER "
                        + name(ofTable(element))));
    last.addAll(comment(object(element), element));
    last.addAll(columnComments(element));
    return last;
  }

  /** The name of a trigger or policy without the table's. */
  private static String ofTable(Element element) {
    String end = " on " + element.fact(Element.TABLE).orElse("");
    return element.name().substring(0, element.name().length() - end.length());
  }

  /** What a statement calls an object that belongs to no table. */
  private String object(Element element) {
    String word = sqlWord(element.kind()) + " ";
    return switch (element.kind()) {
      case FUNCTION, PROCEDURE -> word + signature(element);
      case AGGREGATE -> word + signature(element).replace("()", "(*)");
      case TRIGGER, POLICY ->
          word + name(ofTable(element)) + " ON " + quoted(element.fact(Element.TABLE).orElse(""));
      default -> word + quoted(element.name());
    };
  }

  @Override
  public boolean refusesToDropWhatIsUsed() {
    return true;
  }

  @Override
  public List<String> origins(Difference column, Snapshot standing) {
    List<Element> tables =
        standing.elements().stream().filter(one -> one.kind() == Kind.TABLE).toList();
    Optional<Element> table =
        tables.stream().filter(one -> one.name().equals(column.table())).findFirst();
    boolean own =
        column.change() != Difference.Change.CHANGED
            && column.after().or(column::before).flatMap(one -> one.fact(INHERITED)).isEmpty();
    if (table.isEmpty() || (own && table.get().fact(BOUND).isEmpty())) {
      return List.of();
    }
    List<String> written = List.of(BETWEEN.split(table.get().fact(INHERITS).orElse("")));
    return tables.stream()
        .map(Element::name)
        .filter(name -> written.contains(quoted(name)) || written.contains(name(alone(name))))
        .toList();
  }

  @Override
  public List<String> rights(Element element, List<Element> standing) {
    return element.kind().isView()
        ? PostgresRights.again(element, object(element), standing, this::name)
        : List.of();
  }

  @Override
  protected Optional<String> drop(Element element) {
    return element.kind() == Kind.OTHER ? Optional.empty() : Optional.of("DROP " + object(element));
  }

  @Override
  protected Optional<List<String>> replacement(Element before, Element after) {
    String definition = after.fact(Element.DEFINITION).orElse("");
    return switch (after.kind()) {
      // What calls a routine goes on calling it.
      case FUNCTION, PROCEDURE ->
          definition.isEmpty()
              ? Optional.empty()
              : Optional.of(List.of(definition.replaceFirst("CREATE ", "CREATE OR REPLACE ")));
      case ENUM, DOMAIN, COMPOSITE, EXTENSION, SCHEMA -> Optional.empty();
      default -> super.replacement(before, after);
    };
  }

  @Override
  protected Optional<List<String>> tableChange(Difference difference) {
    String alter = "ALTER TABLE " + quoted(difference.name()) + " ";
    List<String> statements = new ArrayList<>();
    for (Difference.FactChange fact : difference.facts()) {
      switch (fact.name()) {
        case REPLICA_IDENTITY -> statements.add(alter + identityOf(fact.after().orElse("DEFAULT")));
        case Column.COMMENT ->
            statements.add(commenting("TABLE " + quoted(difference.name()), fact.after()));
        case "row security" -> {
          String after = fact.after().orElse("");
          statements.add(alter + (after.isEmpty() ? "DISABLE" : "ENABLE") + " ROW LEVEL SECURITY");
          String force = after.equals("forced") ? "FORCE" : "NO FORCE";
          statements.add(alter + force + " ROW LEVEL SECURITY");
        }
        case "unlogged" ->
            statements.add(alter + "SET " + (fact.after().isPresent() ? "UNLOGGED" : "LOGGED"));
        default -> {
          return Optional.empty();
        }
      }
    }
    return Optional.of(statements);
  }

  @Override
  protected List<String> addition(String table, Element column) {
    List<String> statements = new ArrayList<>(super.addition(table, column));
    statements.addAll(altering(table, column, tuning(column)));
    statements.addAll(comment(columnName(table, column.name()), column));
    return statements;
  }

  @Override
  protected Optional<List<String>> columnChange(Difference difference, String alter) {
    return alteration(difference, alter);
  }

  @Override
  protected Optional<List<String>> otherChange(Difference.FactChange fact, String start) {
    return switch (fact.name()) {
      // Said by whether it may be null.
      case NOT_NULL -> Optional.of(List.of());
      case STATISTICS ->
          Optional.of(List.of(start + "SET STATISTICS " + fact.after().orElse("-1")));
      // Which one a type has by itself, versions before 16 have no word for.
      case STORAGE -> fact.after().map(how -> List.of(start + "SET STORAGE " + how));
      default -> Optional.empty();
    };
  }

  @Override
  protected String retyping(Element column) {
    String type = column.fact(TYPE).orElse("");
    String collate = column.fact(Column.COLLATION).map(name -> " COLLATE " + name).orElse("");
    return "TYPE " + type + collate + " USING " + name(column.name()) + "::" + type;
  }

  @Override
  protected Optional<String> keyDrop(Element key, String table) {
    if (key.kind() == Kind.INDEX) {
      return Optional.of("DROP INDEX " + inSchemaOf(table) + name(key.name()));
    }
    if (key.kind() != Kind.PRIMARY_KEY && known(key).isEmpty()) {
      return Optional.empty();
    }
    String alter = "ALTER TABLE " + quoted(table);
    return Optional.of(alter + " DROP CONSTRAINT " + name(keyName(key, table)));
  }
}
