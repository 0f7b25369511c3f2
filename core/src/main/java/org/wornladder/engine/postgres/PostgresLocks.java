package org.wornladder.engine.postgres;

import java.util.Optional;
import java.util.regex.Pattern;
import org.wornladder.change.Lock;
import org.wornladder.change.SchemaChange;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Part;
import org.wornladder.schema.PrimaryKey;

/**
 * The locks that grow with the rows of a table (PostgreSQL manual, "Explicit Locking", "ALTER
 * TABLE"); measured on a server. Locks for an instant are left out.
 */
final class PostgresLocks {
  private static final String EVERYBODY = "AccessExclusive on the table: readers and writers wait";
  private static final String VALIDATE =
      "add it with NOT VALID, and VALIDATE CONSTRAINT in a rung of its own";

  /** Types of which more is only a longer limit (PostgreSQL manual, "ALTER TABLE", "Notes"). */
  private static final Pattern VARYING =
      Pattern.compile("(?:character varying|varchar|text|numeric|decimal)\\b.*");

  private PostgresLocks() {}

  static Optional<Lock> of(SchemaChange change) {
    if (change.target().kind() != Kind.TABLE) {
      return Optional.empty();
    }
    if (change instanceof SchemaChange.AddPart add) {
      return added(add.part());
    }
    return change instanceof SchemaChange.AlterPart alter
            && alter.before() instanceof Column before
            && alter.after() instanceof Column after
        ? altered(before, after)
        : Optional.empty();
  }

  private static Optional<Lock> added(Part part) {
    if (part instanceof Index) {
      return Optional.of(
          new Lock(
              "Share on the table: writers wait while the index is built",
              "CREATE INDEX CONCURRENTLY, in a rung with --| run: outside-transaction"));
    }
    if (part instanceof ForeignKey) {
      return Optional.of(
          new Lock(
              "ShareRowExclusive on both tables: writers wait while all rows are read", VALIDATE));
    }
    boolean unique = part instanceof PrimaryKey || part.kind() == Kind.UNIQUE;
    if (unique) {
      return Optional.of(
          new Lock(
              EVERYBODY + " while an index is built",
              "CREATE UNIQUE INDEX CONCURRENTLY in a rung of its own, then ADD CONSTRAINT … USING"
                  + " INDEX"));
    }
    if (part instanceof Constraint) {
      return Optional.of(new Lock(EVERYBODY + " while all rows are read", VALIDATE));
    }
    return part instanceof Column column && isComputed(column)
        ? Optional.of(Lock.of(EVERYBODY + " while the table is rewritten"))
        : Optional.empty();
  }

  /** Whether each row gets a value of its own. */
  private static boolean isComputed(Column column) {
    return column.more(Column.GENERATED).isPresent()
        || column.more(Column.IDENTITY).isPresent()
        || column.defaultValue().filter(value -> value.contains("(")).isPresent();
  }

  private static Optional<Lock> altered(Column before, Column after) {
    if (!before.type().equals(after.type()) && !staysAsItIs(before.type(), after.type())) {
      return Optional.of(
          new Lock(
              EVERYBODY + " while the table and its indexes are rewritten",
              "add a column of the new type, copy in batches, and switch over"));
    }
    return before.nullable() && !after.nullable()
        ? Optional.of(
            new Lock(
                EVERYBODY + " while all rows are read",
                "add CHECK (… IS NOT NULL) NOT VALID and validate it first: SET NOT NULL then reads"
                    + " nothing"))
        : Optional.empty();
  }

  private static boolean staysAsItIs(String before, String after) {
    return VARYING.matcher(before).matches()
        && VARYING.matcher(after).matches()
        && before.startsWith("numeric") == after.startsWith("numeric")
        && limit(after) >= limit(before);
  }

  private static int limit(String type) {
    String digits = type.replaceAll("^[^(]*\\(?(\\d*).*$", "$1");
    return digits.isEmpty() ? Integer.MAX_VALUE : Integer.parseInt(digits);
  }
}
