package org.wornladder.engine;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.StringJoiner;
import java.util.stream.Collectors;
import org.wornladder.change.Alteration;
import org.wornladder.change.Ddl;
import org.wornladder.change.RowCheck;
import org.wornladder.change.SchemaChange;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.DefinedObject;
import org.wornladder.schema.Described;
import org.wornladder.schema.Facts;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Table;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Quoting;

/** What the engines have in common when they write changes as SQL. */
public abstract class SqlDdl implements Ddl {
  protected static final Alteration NO_STATEMENT =
      Alteration.notPossible("no statement makes it here");

  private static final String CREATE = "CREATE ";
  private static final String MATCH = "MATCH FULL";
  private static final String STORED = " stored";
  private static final String VIRTUAL = " virtual";

  private final Dialect dialect;
  private final Quoting quoting;
  private final Letters plain;

  /** The letters of which names may be made without quotes. */
  protected enum Letters {
    SMALL,
    CAPITAL,
    BOTH;

    private boolean hold(char c) {
      return (this != CAPITAL && c >= 'a' && c <= 'z') || (this != SMALL && c >= 'A' && c <= 'Z');
    }
  }

  /**
   * @param plain the letters of a name that needs no quotes, if it is no reserved word
   */
  protected SqlDdl(Dialect dialect, Quoting quoting, Letters plain) {
    this.dialect = dialect;
    this.quoting = quoting;
    this.plain = plain;
  }

  @Override
  public final Dialect dialect() {
    return dialect;
  }

  @Override
  public String rowsOf(Table table) {
    return name(table.id());
  }

  /** An object's name as statements write it, with its schema where it is not the session's own. */
  protected final String name(ObjectId id) {
    return id.schema().isEmpty() ? name(id.name()) : name(id.schema()) + "." + name(id.name());
  }

  /** A name, in quotes where it needs them. */
  protected final String name(String name) {
    return isPlain(name) && !ReservedWords.contains(name) ? name : quoting.name(name);
  }

  /** No pattern: there are many names, and to match them takes longer than all else. */
  private boolean isPlain(String name) {
    for (int i = 0; i < name.length(); i++) {
      char c = name.charAt(i);
      if (!plain.hold(c) && c != '_' && (i == 0 || c < '0' || c > '9')) {
        return false;
      }
    }
    return !name.isEmpty();
  }

  protected final String text(String text) {
    return quoting.text(text);
  }

  /** Names in parentheses. */
  protected final String columns(List<String> names) {
    StringJoiner written = new StringJoiner(", ", "(", ")");
    names.forEach(name -> written.add(name(name)));
    return written.toString();
  }

  @Override
  public final List<String> statements(SchemaChange change) {
    if (change instanceof SchemaChange.Create create) {
      return create(create.object());
    }
    if (change instanceof SchemaChange.Drop drop) {
      return List.of(drop(drop.object()));
    }
    if (change instanceof SchemaChange.Alter alter) {
      return alter(alter.before(), alter.after());
    }
    if (change instanceof SchemaChange.RenameTable rename) {
      return List.of(
          "ALTER TABLE " + name(rename.before()) + " RENAME TO " + name(rename.target().name()));
    }
    if (change instanceof SchemaChange.Rebuild rebuild) {
      return rebuild(rebuild);
    }
    if (change instanceof SchemaChange.FillNulls fill) {
      String column = name(fill.column());
      return List.of(
          "UPDATE %s SET %s = %s WHERE %s IS NULL"
              .formatted(name(fill.target()), column, fill.expression(), column));
    }
    if (change instanceof SchemaChange.AddPart add) {
      return add(add);
    }
    if (change instanceof SchemaChange.DropPart drop) {
      return dropPart(drop.target(), drop.part());
    }
    if (change instanceof SchemaChange.AlterPart alter) {
      return alterPart(alter);
    }
    SchemaChange.RenameColumn rename = (SchemaChange.RenameColumn) change;
    return List.of(
        alterTable(rename.target())
            + renaming()
            + name(rename.before())
            + " TO "
            + name(rename.after()));
  }

  @Override
  public final String insertion(Table table, List<Column> columns) {
    return "INSERT INTO "
        + name(table.id())
        + " ("
        + columns.stream().map(column -> name(column.name())).collect(Collectors.joining(", "))
        + ")"
        + overriding();
  }

  /** The words by which an INSERT gives values to columns that the database numbers. */
  protected String overriding() {
    return "";
  }

  @Override
  public final String count(RowCheck check) {
    return rows().count(check);
  }

  @Override
  public final String examples(RowCheck check, List<String> key, int most) {
    return rows().examples(check, key, most);
  }

  /** A value as a query for rows compares it with one of another table. */
  protected String comparable(String expression) {
    return expression;
  }

  /** How many characters a value has, for a query for rows. */
  protected String length(String expression) {
    return "length(" + expression + ")";
  }

  private RowCheckSql rows() {
    return new RowCheckSql(
        new RowCheckSql.Naming() {
          @Override
          public String of(ObjectId id) {
            return name(id);
          }

          @Override
          public String of(String one) {
            return name(one);
          }

          @Override
          public String comparable(String expression) {
            return SqlDdl.this.comparable(expression);
          }

          @Override
          public String length(String expression) {
            return SqlDdl.this.length(expression);
          }
        });
  }

  /** The words between ALTER TABLE and the name of a column that gets another one. */
  protected String renaming() {
    return "RENAME COLUMN ";
  }

  /** The statements that create an object with the parts that are inside it. */
  protected List<String> create(DatabaseObject object) {
    if (object instanceof Table table) {
      return createTable(table);
    }
    List<String> statements = new ArrayList<>(List.of(((DefinedObject) object).statement()));
    statements.addAll(aside(object));
    return statements;
  }

  /** The statements that create a table. */
  protected abstract List<String> createTable(Table table);

  /** What an object's own statement does not say: comments, states. */
  protected List<String> aside(DatabaseObject object) {
    return List.of();
  }

  @Override
  public Optional<String> refusal(DatabaseObject object) {
    boolean defined = !(object instanceof DefinedObject one) || one.definition().startsWith(CREATE);
    return defined ? Optional.empty() : Optional.of("it is named here, and not read further");
  }

  /** The statement that drops an object. */
  protected String drop(DatabaseObject object) {
    return "DROP " + sqlWord(object.kind()) + " " + name(object.id());
  }

  /** The statements that make other facts of an object. */
  protected abstract List<String> alter(DatabaseObject before, DatabaseObject after);

  /** The statements that copy a table's rows into a new one. */
  protected List<String> rebuild(SchemaChange.Rebuild change) {
    throw new IllegalArgumentException("tables are altered in place here");
  }

  /** The statements that alter a part, where that is possible in place. */
  protected abstract List<String> alterPart(SchemaChange.AlterPart change);

  private List<String> add(SchemaChange.AddPart change) {
    ObjectId owner = change.target();
    if (change.part() instanceof Column column) {
      return addColumn(owner, column, change.position());
    }
    List<String> statements = new ArrayList<>();
    statements.add(
        change.part() instanceof Index index
            ? createIndex(index, owner)
            : alterTable(owner) + "ADD " + constraint(change.part()));
    statements.addAll(comment(partForComment(change.part(), owner), change.part()));
    return statements;
  }

  protected List<String> addColumn(
      ObjectId owner, Column column, Optional<SchemaChange.Position> position) {
    return List.of(alterTable(owner) + "ADD COLUMN " + column(column));
  }

  protected List<String> dropPart(ObjectId owner, Part part) {
    if (part instanceof Column) {
      return List.of(alterTable(owner) + "DROP COLUMN " + name(part.name()));
    }
    return List.of(
        part instanceof Index
            ? "DROP INDEX " + name(part.name())
            : alterTable(owner) + "DROP CONSTRAINT " + name(knownName(part).orElse("")));
  }

  /** The beginning of a statement that alters a table, or what else has parts. */
  protected final String alterTable(ObjectId owner) {
    return (owner.kind() == Kind.DOMAIN ? "ALTER DOMAIN " : "ALTER TABLE ") + name(owner) + " ";
  }

  /** The statement that makes an index. */
  protected abstract String createIndex(Index index, ObjectId table);

  /** The comments of a table's columns and the parts that are inside it. */
  protected final List<String> comments(Table table) {
    List<String> comments = new ArrayList<>(comment("TABLE " + name(table.id()), table));
    table.parts().forEach(part -> comments.addAll(comment(partForComment(part, table.id()), part)));
    return comments;
  }

  protected final List<String> comment(String object, Described described) {
    return described
        .fact(Facts.COMMENT)
        .map(words -> List.of(commenting(object, Optional.of(words))))
        .orElse(List.of());
  }

  /** The statement that gives an object its comment, or takes it away. */
  protected final String commenting(String object, Optional<String> words) {
    return "COMMENT ON " + object + " IS " + words.map(this::text).orElse("NULL");
  }

  /** What COMMENT ON calls a part, for engines that keep comments on parts. */
  protected String partForComment(Part part, ObjectId owner) {
    return part instanceof Column
        ? "COLUMN " + name(owner) + "." + name(part.name())
        : sqlWord(part.kind()) + " " + name(part.name());
  }

  /** A column as a table's statement or ADD COLUMN writes it. */
  protected abstract String column(Column column);

  /** A key or constraint as a table's statement or ADD writes it. */
  protected String constraint(Part constraint) {
    String named = lastingName(constraint).map(word -> "CONSTRAINT " + name(word) + " ").orElse("");
    if (constraint instanceof PrimaryKey key) {
      return named + key.definition().orElseGet(() -> "PRIMARY KEY " + columns(key.columns()));
    }
    return named
        + (constraint instanceof ForeignKey key
            ? foreignKey(key)
            : demand((Constraint) constraint));
  }

  /**
   * The name that a key or constraint must have again when it is made anew: other statements may
   * speak of it, even where the engine invented it.
   */
  protected Optional<String> lastingName(Part constraint) {
    return knownName(constraint);
  }

  /** The name that was chosen for a key or constraint. */
  protected static Optional<String> chosenName(Part constraint) {
    if (constraint instanceof PrimaryKey key) {
      return key.chosenName();
    }
    return constraint instanceof ForeignKey foreign
        ? foreign.chosenName()
        : ((Constraint) constraint).chosenName();
  }

  /** The name that the engine knows a key or constraint by. */
  protected static Optional<String> knownName(Part key) {
    if (key instanceof PrimaryKey primary) {
      return primary.knownName();
    }
    return key instanceof ForeignKey foreign ? foreign.knownName() : ((Constraint) key).knownName();
  }

  /** A unique, check or exclusion constraint without its name. */
  protected String demand(Constraint constraint) {
    String definition = constraint.definition();
    return constraint.kind() == Kind.UNIQUE
        ? "UNIQUE " + definition
        : "CHECK " + (isWhole(definition) ? definition : "(" + definition + ")");
  }

  private String foreignKey(ForeignKey key) {
    StringBuilder text = new StringBuilder("FOREIGN KEY ");
    text.append(columns(key.columns())).append(" REFERENCES ").append(name(key.target()));
    if (!key.targetColumns().isEmpty()) {
      text.append(' ').append(columns(key.targetColumns()));
    }
    String more = key.more();
    if (more.startsWith(MATCH)) {
      text.append(' ').append(MATCH);
      more = more.substring(MATCH.length()).strip();
    }
    if (!key.written().isEmpty()) {
      return text.append(' ').append(key.written()) + (more.isEmpty() ? "" : " " + more);
    }
    key.fact(ForeignKey.ON_UPDATE).ifPresent(action -> text.append(" ON UPDATE ").append(action));
    key.fact(ForeignKey.ON_DELETE).ifPresent(action -> text.append(" ON DELETE ").append(action));
    return text + (more.isEmpty() ? "" : " " + more);
  }

  /** What a generated column computes, in parentheses. */
  public static Optional<String> computed(Column column) {
    return column
        .more(Column.GENERATED)
        .map(
            how ->
                how.endsWith(STORED)
                    ? how.substring(0, how.length() - STORED.length())
                    : how.endsWith(VIRTUAL)
                        ? how.substring(0, how.length() - VIRTUAL.length())
                        : how)
        .map(how -> isWhole(how) ? how : "(" + how + ")");
  }

  public static boolean isStored(Column column) {
    return column.more(Column.GENERATED).filter(how -> how.endsWith(STORED)).isPresent();
  }

  /** Whether the parenthesis that a text begins with closes at its end. */
  private static boolean isWhole(String text) {
    int depth = 0;
    for (int i = 0; i < text.length(); i++) {
      depth += text.charAt(i) == '(' ? 1 : text.charAt(i) == ')' ? -1 : 0;
      if (depth <= 0) {
        return text.startsWith("(") && i == text.length() - 1;
      }
    }
    return false;
  }

  /** A kind as statements write it. */
  protected static String sqlWord(Kind kind) {
    return switch (kind) {
      case ENUM, COMPOSITE, RANGE -> "TYPE";
      case MATERIALISED_VIEW -> "MATERIALIZED VIEW";
      default -> kind.name();
    };
  }

  /** Parts of a table's statement, a line each. */
  protected static String lines(List<String> parts) {
    return " (\n  " + String.join(",\n  ", parts) + "\n)";
  }

  /** The columns and constraints of a table's statement, but for its indexes. */
  protected final List<String> inside(Table table) {
    List<String> inside = new ArrayList<>();
    for (Part part : table.parts()) {
      if (part instanceof Column column) {
        inside.add(column(column));
      } else if (!(part instanceof Index)) {
        inside.add(constraint(part));
      }
    }
    return inside;
  }

  /** The names of the facts that two descriptions differ in. */
  public static List<String> changed(Described before, Described after) {
    List<String> changed = new ArrayList<>();
    before
        .meaning()
        .forEach(
            (word, value) -> {
              if (!value.equals(after.facts().get(word))) {
                changed.add(word);
              }
            });
    after.meaning().keySet().stream()
        .filter(word -> !before.facts().containsKey(word))
        .forEach(changed::add);
    return changed;
  }

  /** Whether nothing but the comment differs. */
  public static boolean isComment(List<String> changed) {
    return changed.stream().allMatch(Facts.COMMENT::equals);
  }

  /** Whether a change gives a column another type, collation or computation. */
  public static boolean reshapes(SchemaChange.AlterPart change) {
    List<String> changed = changed(change.before(), change.after());
    return changed.contains(Column.TYPE)
        || changed.contains(Column.COLLATION)
        || changed.contains(Column.GENERATED);
  }
}
