package org.wornladder.change;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/**
 * The structure wanted by a model that maps only some tables and columns: what the model says of
 * those, and everything else as it is there.
 *
 * @param whole with all that the model does not map
 * @param unmapped tables, columns, unique constraints and foreign keys that it does not map, each
 *     as a difference that removes it
 */
public record ModelledStructure(Snapshot whole, List<Difference> unmapped) {
  private static final Set<String> OF_LISTS =
      Set.of("in", "any", "array", "text", "character", "varying");

  public ModelledStructure {
    unmapped = List.copyOf(unmapped);
  }

  /**
   * Puts both together.
   *
   * @param present what is there
   * @param model what an empty database has that was made from the model alone
   */
  public static ModelledStructure of(Snapshot present, Snapshot model) {
    Map<ObjectId, DatabaseObject> all = new LinkedHashMap<>();
    present.objects().forEach(object -> all.put(object.id(), object));
    for (DatabaseObject object : model.objects()) {
      DatabaseObject known = all.get(object.id());
      if (known instanceof Table was && object instanceof Table is) {
        all.put(object.id(), both(was, is));
      } else {
        all.putIfAbsent(object.id(), object);
      }
    }
    Snapshot whole = new Snapshot(List.copyOf(all.values()), present.unseen());
    return new ModelledStructure(whole, unmapped(whole, present, model));
  }

  private static Table both(Table was, Table is) {
    List<Column> columns = new ArrayList<>();
    for (Column column : was.columns()) {
      columns.add(is.column(column.name()).map(wanted -> both(column, wanted)).orElse(column));
    }
    for (int i = 0; i < is.columns().size(); i++) {
      if (was.column(is.columns().get(i).name()).isEmpty()) {
        columns.add(place(columns, is, i), is.columns().get(i));
      }
    }
    List<ForeignKey> keys = new ArrayList<>(was.foreignKeys());
    is.foreignKeys().stream().filter(key -> !hasKey(was, key)).forEach(keys::add);
    List<Constraint> constraints = constraints(was, is);
    List<Index> indexes = new ArrayList<>(was.indexes());
    for (Index index : is.indexes()) {
      boolean isNew =
          was.indexes().stream()
              .noneMatch(one -> isSame(one, index) || one.name().equals(index.name()));
      boolean isMade =
          !index.fromConstraint()
              || constraints.stream().anyMatch(one -> one.knownAs().equals(index.name()));
      if (isNew && isMade) {
        indexes.add(index);
      }
    }
    Optional<PrimaryKey> key =
        was.primaryKey().equals(is.primaryKey()) || is.key().isEmpty() ? was.key() : is.key();
    Table table =
        new Table(
            was.id(), columns, key, keys, constraints, indexes, was.options(), "", was.dependsOn());
    // Where the engine keeps a table's text, it is written anew from the parts.
    return table.parts().equals(was.parts()) ? was : table;
  }

  /** A new column comes behind the one that is before it in the model. */
  private static int place(List<Column> columns, Table model, int number) {
    if (number == 0) {
      return 0;
    }
    String before = model.columns().get(number - 1).name();
    for (int i = 0; i < columns.size(); i++) {
      if (columns.get(i).name().equalsIgnoreCase(before)) {
        return i + 1;
      }
    }
    return columns.size();
  }

  /** The model says type, NULL and numbering; a default, a comment and the rest stay. */
  private static Column both(Column was, Column is) {
    boolean isNumbered = was.more(Column.IDENTITY).isPresent() || was.defaultValue().isPresent();
    Map<String, String> more = new HashMap<>(was.more());
    boolean isSameType = was.type().equalsIgnoreCase(is.type());
    if (!isSameType) {
      more.remove(Column.COLLATION);
      is.more(Column.COLLATION).ifPresent(one -> more.put(Column.COLLATION, one));
    }
    if (!isNumbered) {
      is.more(Column.IDENTITY).ifPresent(one -> more.put(Column.IDENTITY, one));
    }
    return new Column(
        was.name(),
        isSameType ? was.type() : is.type(),
        is.nullable(),
        was.defaultValue(),
        more,
        isSameType ? was.dependsOn() : is.dependsOn());
  }

  private static boolean hasKey(Table table, ForeignKey wanted) {
    return table.foreignKeys().stream().anyMatch(one -> one.name().equals(wanted.name()));
  }

  private static boolean isSame(Index one, Index other) {
    return one.columns().equals(other.columns())
        && one.unique() == other.unique()
        && one.partial() == other.partial();
  }

  private static List<Constraint> constraints(Table was, Table is) {
    List<Constraint> constraints = new ArrayList<>(was.constraints());
    for (Constraint wanted : is.constraints()) {
      if (!isKept(was, wanted)) {
        Optional<Constraint> alike =
            was.constraints().stream().filter(one -> isAlike(one, wanted)).findFirst();
        alike.ifPresent(constraints::remove);
        constraints.add(alike.map(one -> renamed(wanted, one)).orElse(wanted));
      }
    }
    return constraints;
  }

  /** Whether something there says the same. */
  private static boolean isKept(Table was, Constraint wanted) {
    boolean isThere =
        was.constraints().stream()
            .anyMatch(
                one -> one.kind() == wanted.kind() && one.definition().equals(wanted.definition()));
    boolean isIndexed =
        wanted.kind() == Kind.UNIQUE
            && was.indexes().stream()
                .anyMatch(
                    index ->
                        index.unique()
                            && !index.partial()
                            && wanted.definition().equals(list(index.columns())));
    return isThere || isIndexed;
  }

  private static String list(List<String> columns) {
    return "(" + String.join(", ", columns) + ")";
  }

  /** Whether two conditions differ only in the values that they name. */
  private static boolean isAlike(Constraint one, Constraint other) {
    return one.kind() == Kind.CHECK
        && other.kind() == Kind.CHECK
        && withoutValues(one.definition()).equals(withoutValues(other.definition()));
  }

  /**
   * The words of a condition but for values, and for how an engine writes that there are several.
   */
  private static Set<String> withoutValues(String condition) {
    Set<String> words = new LinkedHashSet<>();
    String outside = condition.replaceAll("'(?:[^']|'')*'", " ");
    for (String word : outside.toLowerCase(Locale.ROOT).split("[^\\w$]+")) {
      if (!word.isEmpty() && !Character.isDigit(word.charAt(0)) && !OF_LISTS.contains(word)) {
        words.add(word);
      }
    }
    return words;
  }

  private static Constraint renamed(Constraint wanted, Constraint one) {
    return new Constraint(
        wanted.kind(),
        one.chosenName(),
        one.knownAs(),
        wanted.definition(),
        one.comment(),
        wanted.written(),
        wanted.dependsOn());
  }

  private static List<Difference> unmapped(Snapshot whole, Snapshot present, Snapshot model) {
    List<Difference> unmapped = new ArrayList<>();
    for (DatabaseObject object : present.objects()) {
      if (object instanceof Table was) {
        Optional<Table> is = model.object(was.id()).map(Table.class::cast);
        if (is.isEmpty()) {
          unmapped.add(Difference.of(Optional.of(was), Optional.empty()));
        } else {
          parts(was, is.get(), (Table) whole.object(was.id()).orElseThrow())
              .forEach(part -> unmapped.add(gone(was.id(), part)));
        }
      }
    }
    return unmapped;
  }

  private static Difference gone(ObjectId table, Part part) {
    return new Difference(Optional.of(table), Optional.of(part), Optional.empty());
  }

  private static List<Part> parts(Table was, Table is, Table whole) {
    List<Part> parts = new ArrayList<>();
    was.columns().stream().filter(column -> is.column(column.name()).isEmpty()).forEach(parts::add);
    List<String> gone = parts.stream().map(Part::name).toList();
    was.foreignKeys().stream()
        .filter(key -> !hasKey(is, key))
        .filter(key -> key.columns().stream().noneMatch(gone::contains))
        .forEach(parts::add);
    whole.constraints().stream()
        .filter(one -> one.kind() == Kind.UNIQUE)
        .filter(one -> !isKept(is, one))
        .filter(one -> gone.stream().noneMatch(name -> names(one, name)))
        .forEach(parts::add);
    return parts;
  }

  private static boolean names(Constraint constraint, String column) {
    return List.of(constraint.definition().replaceAll("[()]", "").split(", ")).contains(column);
  }

  /**
   * The structure without some of what is unmapped. What belongs to a column goes with it.
   *
   * @param gone of {@link #unmapped}
   */
  public Snapshot without(List<Difference> gone) {
    List<DatabaseObject> objects = new ArrayList<>();
    for (DatabaseObject object : whole.objects()) {
      boolean isGone =
          gone.stream()
              .anyMatch(one -> one.owner().isEmpty() && one.before().equals(Optional.of(object)));
      if (!isGone) {
        objects.add(object instanceof Table table ? without(table, gone) : object);
      }
    }
    return new Snapshot(objects, whole.unseen());
  }

  private static Table without(Table table, List<Difference> gone) {
    List<Part> parts =
        gone.stream()
            .filter(one -> one.owner().equals(Optional.of(table.id())))
            .flatMap(one -> one.before().stream())
            .map(Part.class::cast)
            .toList();
    if (parts.isEmpty()) {
      return table;
    }
    List<String> columns = parts.stream().filter(Column.class::isInstance).map(Part::name).toList();
    List<String> constraints =
        parts.stream()
            .filter(Constraint.class::isInstance)
            .map(part -> ((Constraint) part).knownAs())
            .toList();
    return new Table(
        table.id(),
        table.columns().stream().filter(one -> !columns.contains(one.name())).toList(),
        table.key(),
        table.foreignKeys().stream()
            .filter(one -> !parts.contains(one))
            .filter(one -> one.columns().stream().noneMatch(columns::contains))
            .toList(),
        table.constraints().stream()
            .filter(one -> !parts.contains(one))
            .filter(
                one -> one.kind() != Kind.UNIQUE || columns.stream().noneMatch(c -> names(one, c)))
            .toList(),
        table.indexes().stream()
            .filter(one -> !one.fromConstraint() || !constraints.contains(one.name()))
            .filter(one -> one.columns().stream().noneMatch(columns::contains))
            .toList(),
        table.options(),
        "",
        table.dependsOn());
  }

  /** The same with new columns behind all others, for an engine that cannot put them elsewhere. */
  public static Snapshot withNewColumnsLast(Snapshot wanted, Snapshot present) {
    return new Snapshot(
        wanted.objects().stream()
            .map(
                object ->
                    object instanceof Table table
                            && present.object(table.id()).orElse(object) instanceof Table was
                        ? newColumnsLast(table, was)
                        : object)
            .toList(),
        wanted.unseen());
  }

  private static DatabaseObject newColumnsLast(Table table, Table was) {
    List<Column> columns = new ArrayList<>(table.columns());
    columns.removeIf(column -> was.column(column.name()).isEmpty());
    if (columns.size() == table.columns().size()) {
      return table;
    }
    table.columns().stream()
        .filter(column -> was.column(column.name()).isEmpty())
        .forEach(columns::add);
    return table.with(columns, table.constraints());
  }
}
