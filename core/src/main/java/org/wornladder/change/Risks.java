package org.wornladder.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import org.wornladder.change.Risk.Kind;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.NameList;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/** Finds the risks of a change in the structures before and after it. */
public final class Risks {
  private final List<Risk> found = new ArrayList<>();
  private final Snapshot before;
  private final Snapshot after;
  private final boolean enforcesTypes;

  private Risks(Snapshot before, Snapshot after, boolean enforcesTypes) {
    this.enforcesTypes = enforcesTypes;
    this.before = before;
    this.after = after;
  }

  /**
   * The risks of differences and of the changes that settle them, each once.
   *
   * @param renames those that come before the script
   * @param before the structure behind the renames
   * @param runs whether a change is made as the script makes it: what others wrote may do it in
   *     another way
   */
  public static List<Risk> of(
      ChangeScript script,
      List<SchemaChange> renames,
      Snapshot before,
      Snapshot after,
      Ddl ddl,
      Predicate<SchemaChange> runs) {
    Risks risks = new Risks(before, after, ddl.enforcesTypes());
    risks.renamed(renames);
    risks.renamed(script.changes());
    Set<String> filled = FilledColumns.in(script.changes());
    for (Difference difference : script.written()) {
      risks.take(difference, filled);
    }
    for (SchemaChange change : script.changes()) {
      if (before.object(change.target()).isPresent() && runs.test(change)) {
        ddl.lock(change)
            .ifPresent(
                lock -> {
                  Risk risk =
                      Risk.of(Kind.BLOCKS, subject(change), lock.reason()).instead(lock.instead());
                  boolean ofTable = change.target().kind().isTable();
                  risks.add(ofTable ? risk.over(new RowCheck.Rows(change.target())) : risk);
                });
      }
    }
    return risks.found.stream().distinct().toList();
  }

  private void add(Risk risk) {
    found.add(risk);
  }

  private static String subject(SchemaChange change) {
    return change.target().kind().label() + " " + change.target().displayName();
  }

  private void renamed(List<SchemaChange> changes) {
    for (SchemaChange change : changes) {
      if (change instanceof SchemaChange.RenameColumn rename) {
        String name = rename.target().displayName() + "." + rename.before();
        add(
            Risk.of(
                Kind.BREAKS_OLD_CODE, "column " + name, "it is called " + rename.after() + " now"));
      } else if (change instanceof SchemaChange.RenameTable rename) {
        add(
            Risk.of(
                Kind.BREAKS_OLD_CODE,
                "table " + rename.before().displayName(),
                "it is called " + rename.target().displayName() + " now"));
      }
    }
  }

  private void take(Difference difference, Set<String> filled) {
    if (difference.owner().isEmpty()) {
      whole(difference);
      return;
    }
    ObjectId owner = difference.owner().get();
    Optional<Part> was = difference.before().map(Part.class::cast);
    Optional<Part> is = difference.after().map(Part.class::cast);
    if (difference.either() instanceof Column) {
      column(difference, owner, was.map(Column.class::cast), is.map(Column.class::cast), filled);
    } else if (is.isPresent()) {
      rule(difference, owner, is.get());
    }
  }

  private void whole(Difference difference) {
    if (difference.change() == Difference.Change.REMOVED) {
      DatabaseObject gone = (DatabaseObject) difference.before().orElseThrow();
      if (gone instanceof Table table) {
        add(
            Risk.of(Kind.ERASES, difference.description(), "its rows are gone")
                .over(new RowCheck.Rows(table.id())));
      }
      if (isCalled(gone)) {
        add(Risk.of(Kind.BREAKS_OLD_CODE, difference.description(), "it is not there any more"));
      }
    } else if (difference.kind().isView()) {
      lostColumns(difference);
    }
  }

  private static boolean isCalled(DatabaseObject object) {
    return switch (object.kind()) {
      case TABLE, COLLECTION, VIEW, MATERIALISED_VIEW, FUNCTION, PROCEDURE, AGGREGATE, SEQUENCE ->
          true;
      default -> false;
    };
  }

  /** A view of which a program may read columns that are gone. */
  private void lostColumns(Difference view) {
    if (view.before().isEmpty() || view.after().isEmpty()) {
      return;
    }
    List<String> names = view.after().get().parts().stream().map(part -> part.name()).toList();
    for (Part part : view.before().get().parts()) {
      if (!names.contains(part.name())) {
        add(
            Risk.of(
                Kind.BREAKS_OLD_CODE,
                view.description(),
                "its column " + part.name() + " is not there any more"));
      }
    }
  }

  private void column(
      Difference difference,
      ObjectId table,
      Optional<Column> was,
      Optional<Column> is,
      Set<String> filled) {
    if (table.kind() != org.wornladder.schema.Kind.TABLE) {
      return;
    }
    boolean fills = filled.contains(table.displayName() + "." + difference.name());
    if (is.isEmpty()) {
      dropped(difference, table, was.orElseThrow());
    } else if (was.isEmpty()) {
      added(difference, table, is.get(), fills);
    } else {
      retyped(difference, table, was.get(), is.get());
      if (was.get().nullable() && !is.get().nullable()) {
        required(difference, table, is.get(), fills);
      }
    }
  }

  private void dropped(Difference difference, ObjectId table, Column column) {
    if (column.more(Column.GENERATED).isEmpty()) {
      add(
          Risk.of(Kind.ERASES, difference.description(), "its values are gone")
              .over(new RowCheck.Values(table, column.name())));
    }
    add(Risk.of(Kind.BREAKS_OLD_CODE, difference.description(), "it is not there any more"));
  }

  private void added(Difference difference, ObjectId table, Column column, boolean fills) {
    if (!isRequired(column)) {
      return;
    }
    if (!fills) {
      add(
          Risk.of(
                  Kind.MAY_FAIL,
                  difference.description(),
                  "it is required and has no default, which only an empty table takes")
              .over(new RowCheck.Rows(table))
              .instead("give it a default, or a value for the rows that are there"));
    }
    add(
        Risk.of(
                Kind.BREAKS_OLD_CODE,
                difference.description(),
                "a program that does not know it cannot add rows")
            .instead("let it be NULL or have a default until every program gives it a value"));
  }

  /** Whether a row cannot be added without a value for the column. */
  private static boolean isRequired(Column column) {
    return !column.nullable()
        && column.defaultValue().isEmpty()
        && column.more(Column.GENERATED).isEmpty()
        && column.more(Column.IDENTITY).isEmpty();
  }

  private void required(Difference difference, ObjectId table, Column column, boolean fills) {
    if (!fills) {
      add(
          Risk.of(Kind.MAY_FAIL, difference.description(), "no row may have NULL in it")
              .over(new RowCheck.Nulls(table, column.name()))
              .instead("give these rows a value first"));
    }
    add(
        Risk.of(
            Kind.BREAKS_OLD_CODE,
            difference.description(),
            "a program that leaves it NULL cannot write rows"));
  }

  private void retyped(Difference difference, ObjectId table, Column was, Column is) {
    TypeWidth old = TypeWidth.of(was.type());
    TypeWidth now = TypeWidth.of(is.type());
    if (!enforcesTypes || was.type().equals(is.type()) || now.holds(old)) {
      return;
    }
    boolean shorter = now.family() == TypeWidth.Family.TEXT && now.first().isPresent();
    Risk risk =
        Risk.of(
            Kind.MAY_FAIL,
            difference.description(),
            "not every " + was.type() + " is one of " + is.type());
    add(
        shorter
            ? risk.over(new RowCheck.TooLong(table, is.name(), now.first().getAsInt()))
            : risk.over(new RowCheck.Values(table, was.name())));
    add(Risk.of(Kind.ERASES, difference.description(), "values may be rounded or cut"));
    add(
        Risk.of(
            Kind.BREAKS_OLD_CODE,
            difference.description(),
            "a program may write values that do not fit any more"));
  }

  /** A rule that rows may break; one over a table that is new holds for all of its rows. */
  private void rule(Difference difference, ObjectId table, Part rule) {
    if (before.object(table).isEmpty() || isOverNewColumn(table, rule)) {
      return;
    }
    if (rule instanceof PrimaryKey key) {
      doubles(difference, table, key.columns());
      key.columns().stream()
          .filter(name -> isNullable(table, name))
          .forEach(
              name ->
                  add(
                      Risk.of(
                              Kind.MAY_FAIL,
                              difference.description(),
                              "no row may have NULL in " + name)
                          .over(new RowCheck.Nulls(table, name))));
    } else if (rule instanceof Index index && index.unique() && !index.partial()) {
      doubles(difference, table, index.columns());
    } else if (rule instanceof ForeignKey key && difference.change() == Difference.Change.ADDED) {
      orphans(difference, table, key);
    } else if (rule instanceof Constraint constraint) {
      constraint(difference, table, constraint);
    }
  }

  /** Whether every row has NULL in one of its columns, which no such rule minds. */
  private boolean isOverNewColumn(ObjectId table, Part rule) {
    List<String> columns =
        rule instanceof ForeignKey key
            ? key.columns()
            : rule instanceof Index index
                ? index.columns()
                : rule instanceof Constraint constraint && !(rule instanceof PrimaryKey)
                    ? named(table, constraint)
                    : List.of();
    return columns.stream().anyMatch(name -> !isColumn(table, name) && isEmptyWhenNew(table, name))
        && (!(rule instanceof Constraint check)
            || check.kind() != org.wornladder.schema.Kind.CHECK
            || columns.size() == 1);
  }

  private boolean isEmptyWhenNew(ObjectId table, String name) {
    return after
        .object(table)
        .flatMap(one -> ((Table) one).column(name))
        .filter(column -> column.nullable() && column.defaultValue().isEmpty())
        .filter(column -> column.more(Column.GENERATED).isEmpty())
        .isPresent();
  }

  private void constraint(Difference difference, ObjectId table, Constraint constraint) {
    switch (constraint.kind()) {
      case UNIQUE -> doubles(difference, table, keyOf(constraint.definition()));
      case CHECK ->
          add(
              Risk.of(Kind.MAY_FAIL, difference.description(), "every row must satisfy it")
                  .over(
                      new RowCheck.Violations(
                          table, named(table, constraint), condition(constraint.definition()))));
      default -> add(Risk.of(Kind.MAY_FAIL, difference.description(), "every row must satisfy it"));
    }
  }

  /** The columns of the new table of which a condition speaks, as far as its text shows. */
  private List<String> named(ObjectId table, Constraint check) {
    return after
        .object(table)
        .map(one -> ((Table) one).columns().stream().map(Column::name).toList())
        .orElse(List.of())
        .stream()
        .filter(
            name ->
                Pattern.compile("(?i)(?<![\\w$])" + Pattern.quote(name) + "(?![\\w$])")
                    .matcher(check.definition())
                    .find())
        .toList();
  }

  /** The columns of a unique constraint, without the word in front of them. */
  private static List<String> keyOf(String definition) {
    int open = definition.indexOf('(');
    int end = definition.indexOf(')', Math.max(open, 0));
    return open < 0 || end < 0
        ? List.of()
        : NameList.inParentheses(definition.substring(open, end + 1));
  }

  /** The condition of a check, without the word in front of it. */
  private static String condition(String definition) {
    return definition.toUpperCase(Locale.ROOT).startsWith("CHECK")
        ? definition.substring("CHECK".length()).strip()
        : definition;
  }

  private void doubles(Difference difference, ObjectId table, List<String> columns) {
    Risk risk =
        Risk.of(Kind.MAY_FAIL, difference.description(), "no two rows may have the same key");
    boolean readable =
        !columns.isEmpty() && columns.stream().allMatch(name -> isColumn(table, name));
    add(readable ? risk.over(new RowCheck.Doubles(table, columns)) : risk);
  }

  private void orphans(Difference difference, ObjectId table, ForeignKey key) {
    List<String> target =
        key.targetColumns().isEmpty()
            ? after.object(key.target()).map(one -> ((Table) one).primaryKey()).orElse(List.of())
            : key.targetColumns();
    Risk risk =
        Risk.of(
            Kind.MAY_FAIL,
            difference.description(),
            "every row must point to one of " + key.table());
    boolean readable =
        target.size() == key.columns().size()
            && before.object(key.target()).isPresent()
            && key.columns().stream().allMatch(name -> isColumn(table, name));
    add(
        readable
            ? risk.over(new RowCheck.Orphans(table, key.columns(), key.target(), target))
            : risk);
  }

  /** Whether a column is there before the change, so that its rows can be asked for. */
  private boolean isColumn(ObjectId table, String name) {
    return before.object(table).filter(one -> ((Table) one).column(name).isPresent()).isPresent();
  }

  private boolean isNullable(ObjectId table, String name) {
    return before
        .object(table)
        .flatMap(one -> ((Table) one).column(name))
        .filter(Column::nullable)
        .isPresent();
  }
}
