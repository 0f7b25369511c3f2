package org.wornladder.engine.postgres;

import java.util.List;
import java.util.Optional;
import org.wornladder.change.Alteration;
import org.wornladder.change.SchemaChange;
import org.wornladder.engine.SqlDdl;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Described;
import org.wornladder.schema.EnumType;
import org.wornladder.schema.Facts;
import org.wornladder.schema.OtherObject;
import org.wornladder.schema.Part;
import org.wornladder.schema.Routine;
import org.wornladder.schema.Table;
import org.wornladder.schema.Trigger;

/**
 * What PostgreSQL can alter in place, and what may depend on it while it does (manual, "ALTER …").
 */
final class PostgresAlterations {
  private static final List<String> FIXED_OF_TABLE =
      List.of(
          PostgresDdl.PARTITIONED_BY,
          PostgresDdl.INHERITS,
          PostgresDdl.BOUND,
          PostgresDdl.ATTACHED,
          PostgresDdl.OF_TYPE);

  private static final Alteration NOT_READ =
      Alteration.notPossible("it is named here, and not read further");

  private PostgresAlterations() {}

  /** Whether an object of a rare kind has statements that make and drop it. */
  private static boolean isWritten(DatabaseObject object) {
    return !(object instanceof OtherObject) || object.fact(OtherObject.DROPPED_AS).isPresent();
  }

  static Alteration of(SchemaChange change) {
    if (change instanceof SchemaChange.Alter alter) {
      return ofObject(alter.before(), alter.after());
    }
    if (change instanceof SchemaChange.AlterPart alter) {
      return alter.before() instanceof Column before
          ? ofColumn(before, (Column) alter.after())
          : isComment(SqlDdl.changed(alter.before(), alter.after()))
              ? Alteration.IN_PLACE
              : Alteration.RECREATE;
    }
    if (change instanceof SchemaChange.Drop drop && !isWritten(drop.object())) {
      return NOT_READ;
    }
    return Alteration.IN_PLACE;
  }

  private static boolean isComment(List<String> changed) {
    return changed.stream().allMatch(word -> word.startsWith(Facts.COMMENT));
  }

  private static Alteration ofObject(DatabaseObject before, DatabaseObject after) {
    List<String> changed = SqlDdl.changed(before, after);
    if (isComment(changed)) {
      return Alteration.IN_PLACE;
    }
    return switch (after.kind()) {
      case TABLE -> ofTable(changed);
      case ENUM ->
          PostgresEnums.grows((EnumType) before, (EnumType) after)
              ? Alteration.IN_PLACE
              : Alteration.RECREATE;
      case DOMAIN ->
          changed.contains(Column.TYPE) || changed.contains(Column.COLLATION)
              ? Alteration.RECREATE
              : Alteration.IN_PLACE;
      case FUNCTION, PROCEDURE ->
          isReplaceable(before, after) ? Alteration.IN_PLACE : Alteration.RECREATE;
      case TRIGGER ->
          changed.stream().allMatch(word -> word.equals(Trigger.STATE) || isComment(List.of(word)))
              ? Alteration.IN_PLACE
              : Alteration.RECREATE;
      case VIEW, MATERIALISED_VIEW, AGGREGATE, POLICY, RANGE -> Alteration.RECREATE;
      case OTHER -> isWritten(before) && isWritten(after) ? Alteration.RECREATE : NOT_READ;
      default -> Alteration.IN_PLACE;
    };
  }

  private static Alteration ofTable(List<String> changed) {
    return changed.stream()
        .filter(FIXED_OF_TABLE::contains)
        .findFirst()
        .map(word -> Alteration.notPossible("no statement changes what is said as '" + word + "'"))
        .orElse(
            changed.contains("column order")
                ? Alteration.notPossible("PostgreSQL keeps columns in the order in which they came")
                : Alteration.IN_PLACE);
  }

  /** OR REPLACE keeps the result and the parameters' names (manual, "CREATE FUNCTION"). */
  private static boolean isReplaceable(DatabaseObject before, DatabaseObject after) {
    return before.fact(Routine.RESULT).equals(after.fact(Routine.RESULT))
        && before.fact(Routine.PARAMETERS).equals(after.fact(Routine.PARAMETERS));
  }

  private static Alteration ofColumn(Column before, Column after) {
    List<String> changed = SqlDdl.changed(before, after);
    if (changed.contains(PostgresDdl.INHERITED)) {
      return Alteration.notPossible("no statement changes from where a column is inherited");
    }
    if (!changed.contains(Column.GENERATED)) {
      return Alteration.IN_PLACE;
    }
    boolean was = before.more(Column.GENERATED).isPresent();
    boolean is = after.more(Column.GENERATED).isPresent();
    if (was && is) {
      return Alteration.RECREATE;
    }
    return was && SqlDdl.isStored(before)
        ? Alteration.IN_PLACE
        : Alteration.notPossible("a column with values cannot become a computed one in place");
  }

  /** Whether a dependent may stay (manual, "ALTER TABLE", and the errors that the server gives). */
  static boolean tolerates(SchemaChange change, DatabaseObject dependent, Optional<Part> part) {
    if (change instanceof SchemaChange.Drop || change instanceof SchemaChange.DropPart) {
      return false;
    }
    if (!(change instanceof SchemaChange.AlterPart alter)
        || !SqlDdl.reshapes(alter)
        || !(alter.before() instanceof Column)) {
      return true;
    }
    boolean ofTable = dependent instanceof Table && part.isPresent();
    return ofTable && !isComputed(part.get());
  }

  private static boolean isComputed(Described part) {
    return part instanceof Column column && column.more(Column.GENERATED).isPresent();
  }
}
