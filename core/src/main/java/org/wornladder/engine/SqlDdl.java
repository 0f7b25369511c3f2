package org.wornladder.engine;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.StringJoiner;
import org.wornladder.change.Ddl;
import org.wornladder.change.Difference;
import org.wornladder.schema.Column;
import org.wornladder.schema.Element;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Kind;
import org.wornladder.schema.NameList;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Quoting;

/** What the engines have in common when they write structures. */
public abstract class SqlDdl implements Ddl {
  protected static final String NULLABLE = "nullable";
  protected static final String TYPE = Column.TYPE;
  protected static final String DEFAULT = "default";

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

  /** A table's or another thing's name as statements write it. */
  protected String quoted(String name) {
    return isElsewhere(name) ? name : name(name);
  }

  /** Whether it is a table of another schema, which a foreign key names with both in quotes. */
  protected final boolean isElsewhere(String name) {
    int dot = quoting.nameEnd(name, 0);
    return dot > 0 && name.startsWith(".", dot) && quoting.nameEnd(name, dot + 1) == name.length();
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

  /** The names in the parentheses of a key, as statements write them. */
  protected final String columns(String parenthesised) {
    StringJoiner written = new StringJoiner(", ", "(", ")");
    NameList.inParentheses(parenthesised).forEach(name -> written.add(name(name)));
    return written.toString();
  }

  @Override
  public Set<String> names(Element element) {
    return Set.of(element.name());
  }

  @Override
  public Creation create(Element element) {
    if (element.kind() == Kind.TABLE) {
      return table(element);
    }
    String definition = element.fact(Element.DEFINITION).orElse("");
    return definition.startsWith("CREATE ")
        ? new Creation(List.of(definition), List.of(), aside(element))
        : Creation.NONE;
  }

  /** How a table is made. */
  protected abstract Creation table(Element table);

  /** What an object's own statement does not say: comments, states, owners. */
  protected List<String> aside(Element element) {
    return List.of();
  }

  /** The comments of a table and all its parts, for engines that have statements for them. */
  protected final List<String> comments(Element table) {
    List<String> comments = new ArrayList<>(comment("TABLE " + quoted(table.name()), table));
    for (Element part : table.parts()) {
      if (part.fact(Column.COMMENT).isPresent()) {
        boolean column = part.kind() == Kind.COLUMN;
        String name = table.name();
        comments.addAll(
            comment(column ? columnName(name, part.name()) : keyThing(part, name), part));
      }
    }
    return comments;
  }

  protected final List<String> comment(String object, Element element) {
    return element
        .fact(Column.COMMENT)
        .map(words -> List.of(commenting(object, Optional.of(words))))
        .orElse(List.of());
  }

  /** The statement that gives an object its comment, or takes it away. */
  protected final String commenting(String object, Optional<String> words) {
    return "COMMENT ON " + object + " IS " + words.map(this::text).orElse("NULL");
  }

  protected final String columnName(String table, String column) {
    return "COLUMN " + quoted(table) + "." + name(column);
  }

  /** A column as a table's statement or ADD COLUMN writes it. */
  protected abstract String column(Element column);

  /** A key or constraint as a table's statement or ADD writes it. */
  protected String constraint(Element constraint, String table) {
    String named = lasting(constraint).map(word -> "CONSTRAINT " + name(word) + " ").orElse("");
    return named
        + switch (constraint.kind()) {
          case PRIMARY_KEY ->
              constraint
                  .fact(Element.DEFINITION)
                  .orElseGet(() -> "PRIMARY KEY " + columns(constraint.name()));
          case FOREIGN_KEY -> foreignKey(constraint);
          default -> demand(constraint);
        };
  }

  /**
   * The name that a key or constraint must have again when it is made anew: other statements may
   * speak of it, even where the engine invented it.
   */
  protected Optional<String> lasting(Element constraint) {
    return known(constraint);
  }

  /** The name that the engine knows a key or constraint by. */
  protected static Optional<String> known(Element key) {
    return key.fact(ForeignKey.NAME).or(() -> key.fact(Element.GENERATED_NAME));
  }

  /** A unique, check or exclusion constraint without its name. */
  protected String demand(Element constraint) {
    String definition = constraint.fact(Element.DEFINITION).orElse("");
    return constraint.kind() == Kind.UNIQUE
        ? "UNIQUE " + definition
        : "CHECK " + (definition.startsWith("(") ? definition : "(" + definition + ")");
  }

  private String foreignKey(Element key) {
    StringBuilder text = new StringBuilder("FOREIGN KEY ");
    text.append(columns(key.name())).append(" REFERENCES ").append(quoted(ForeignKey.target(key)));
    key.fact(ForeignKey.TARGET_COLUMNS).ifPresent(names -> text.append(' ').append(columns(names)));
    String more = key.fact(ForeignKey.MORE).orElse("");
    if (more.startsWith(MATCH)) {
      text.append(' ').append(MATCH);
      more = more.substring(MATCH.length()).strip();
    }
    key.fact(ForeignKey.ON_UPDATE).ifPresent(action -> text.append(" ON UPDATE ").append(action));
    key.fact(ForeignKey.ON_DELETE).ifPresent(action -> text.append(" ON DELETE ").append(action));
    return text + (more.isEmpty() ? "" : " " + more);
  }

  /** What a generated column computes, in parentheses. */
  protected static Optional<String> computed(Element column) {
    return column
        .fact(Column.GENERATED)
        .map(
            how ->
                how.endsWith(STORED)
                    ? how.substring(0, how.length() - STORED.length())
                    : how.endsWith(VIRTUAL)
                        ? how.substring(0, how.length() - VIRTUAL.length())
                        : how)
        .map(how -> isWhole(how) ? how : "(" + how + ")");
  }

  protected static boolean isStored(Element column) {
    return column.fact(Column.GENERATED).filter(how -> how.endsWith(STORED)).isPresent();
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

  protected static boolean isNullable(Element column) {
    return column.fact(NULLABLE).orElse("yes").equals("yes");
  }

  /** Parts of a table's statement, a line each. */
  protected static String lines(List<String> parts) {
    return " (\n  " + String.join(",\n  ", parts) + "\n)";
  }

  /** The columns and constraints of a table's statement, but for some kinds. */
  protected final List<String> parts(Element table, Kind... without) {
    List<String> parts = new ArrayList<>();
    for (Element part : table.parts()) {
      if (part.kind() == Kind.COLUMN) {
        parts.add(column(part));
      } else if (part.kind() != Kind.INDEX && !List.of(without).contains(part.kind())) {
        parts.add(constraint(part, table.name()));
      }
    }
    return parts;
  }

  @Override
  public Optional<List<String>> change(Difference difference) {
    if (difference.table().isEmpty()) {
      return whole(difference);
    }
    return difference.kind() == Kind.COLUMN ? columnChange(difference) : keyChange(difference);
  }

  private Optional<List<String>> whole(Difference difference) {
    if (difference.change() == Difference.Change.CHANGED) {
      return difference.kind() == Kind.TABLE
          ? tableChange(difference)
          : replacement(difference.before().orElseThrow(), difference.after().orElseThrow());
    }
    if (difference.before().isPresent()) {
      return drop(difference.before().get()).map(List::of);
    }
    Creation creation = create(difference.after().orElseThrow());
    return creation.make().isEmpty() ? Optional.empty() : Optional.of(creation.all());
  }

  /** An object in the place of another one of its name. */
  protected Optional<List<String>> replacement(Element before, Element after) {
    Optional<String> drop = drop(before);
    Creation creation = create(after);
    if (drop.isEmpty() || creation.make().isEmpty()) {
      return Optional.empty();
    }
    List<String> statements = new ArrayList<>();
    statements.add(drop.get());
    statements.addAll(creation.all());
    return Optional.of(statements);
  }

  /** What is said of a table as a whole; empty where it cannot be changed in place. */
  protected abstract Optional<List<String>> tableChange(Difference difference);

  /** The statement that drops an object that belongs to no table; empty if there is none. */
  protected Optional<String> drop(Element element) {
    return Optional.of("DROP " + sqlWord(element.kind()) + " " + quoted(element.name()));
  }

  /** A kind as statements write it. */
  protected static String sqlWord(Kind kind) {
    return switch (kind) {
      case ENUM, COMPOSITE -> "TYPE";
      case MATERIALISED_VIEW -> "MATERIALIZED VIEW";
      default -> kind.name();
    };
  }

  private Optional<List<String>> columnChange(Difference difference) {
    String alter = "ALTER TABLE " + quoted(difference.table()) + " ";
    return switch (difference.change()) {
      case ADDED -> Optional.of(addition(difference.table(), difference.after().orElseThrow()));
      case REMOVED -> Optional.of(List.of(alter + "DROP COLUMN " + name(difference.name())));
      case CHANGED -> columnChange(difference, alter);
    };
  }

  /** How a column comes to a table that is there. */
  protected List<String> addition(String table, Element column) {
    return List.of("ALTER TABLE " + quoted(table) + " ADD COLUMN " + column(column));
  }

  /**
   * What makes another column of one; empty where that cannot be written.
   *
   * @param alter the statement's beginning, with the table
   */
  protected abstract Optional<List<String>> columnChange(Difference difference, String alter);

  /** A column's change fact by fact, for engines that alter columns so. */
  protected final Optional<List<String>> alteration(Difference difference, String alter) {
    String start = alter + "ALTER COLUMN " + name(difference.name()) + " ";
    Element after = difference.after().orElseThrow();
    Set<String> statements = new LinkedHashSet<>();
    for (Difference.FactChange fact : difference.facts()) {
      switch (fact.name()) {
        case TYPE, Column.COLLATION -> statements.add(start + retyping(after));
        case NULLABLE ->
            statements.add(start + (isNullable(after) ? "DROP NOT NULL" : "SET NOT NULL"));
        case DEFAULT ->
            statements.add(
                start + fact.after().map(value -> "SET DEFAULT " + value).orElse("DROP DEFAULT"));
        case Column.COMMENT ->
            statements.add(
                commenting(columnName(difference.table(), difference.name()), fact.after()));
        default -> {
          Optional<List<String>> more = otherChange(fact, start);
          if (more.isEmpty()) {
            return Optional.empty();
          }
          statements.addAll(more.get());
        }
      }
    }
    return Optional.of(List.copyOf(statements));
  }

  /**
   * The change of what one engine alone says of a column; empty where it cannot be written.
   *
   * @param start the statement's beginning, with table and column
   */
  protected Optional<List<String>> otherChange(Difference.FactChange fact, String start) {
    return Optional.empty();
  }

  /** The words behind ALTER COLUMN that give a column its type. */
  protected String retyping(Element column) {
    return "TYPE " + column.fact(TYPE).orElse("");
  }

  private Optional<List<String>> keyChange(Difference difference) {
    if (difference.change() == Difference.Change.CHANGED
        && difference.facts().stream().allMatch(fact -> fact.name().equals(Column.COMMENT))) {
      Element after = difference.after().orElseThrow();
      String object = keyThing(after, difference.table());
      return Optional.of(List.of(commenting(object, after.fact(Column.COMMENT))));
    }
    List<String> statements = new ArrayList<>();
    if (difference.before().isPresent()) {
      Optional<String> away = keyDrop(difference.before().get(), difference.table());
      if (away.isEmpty()) {
        return Optional.empty();
      }
      statements.add(away.get());
    }
    if (difference.after().isPresent()) {
      Optional<String> there = keyAdd(difference.after().get(), difference.table());
      if (there.isEmpty()) {
        return Optional.empty();
      }
      statements.add(there.get());
      statements.addAll(
          comment(
              keyThing(difference.after().get(), difference.table()), difference.after().get()));
    }
    return Optional.of(statements);
  }

  /**
   * What COMMENT ON calls a key, constraint or index, for engines that keep comments on these.
   *
   * @param table the one that it is part of
   */
  protected String keyThing(Element key, String table) {
    return sqlWord(key.kind()) + " " + name(key.name());
  }

  /** How a key, constraint or index comes to a table that is there; empty if it cannot. */
  protected Optional<String> keyAdd(Element key, String table) {
    return key.kind() == Kind.INDEX
        ? Optional.of(index(key, table))
        : Optional.of("ALTER TABLE " + quoted(table) + " ADD " + constraint(key, table));
  }

  /** The statement that makes an index of a table. */
  protected abstract String index(Element index, String table);

  /** How a key, constraint or index leaves a table; empty if it cannot. */
  protected Optional<String> keyDrop(Element key, String table) {
    if (key.kind() == Kind.INDEX) {
      return Optional.of("DROP INDEX " + name(key.name()));
    }
    return known(key)
        .map(name -> "ALTER TABLE " + quoted(table) + " DROP CONSTRAINT " + name(name));
  }
}
