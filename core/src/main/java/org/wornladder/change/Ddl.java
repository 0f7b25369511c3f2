package org.wornladder.change;

import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.Right;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.sql.Dialect;

/** How one engine changes structures, and writes the changes as SQL. Pure: no database is asked. */
public interface Ddl {
  Dialect dialect();

  /** The statements of a change, without end marks. */
  List<String> statements(SchemaChange change);

  /** The statements of changes in their order; neighbours on one table may share one. */
  default List<String> script(List<SchemaChange> ordered) {
    return ordered.stream().flatMap(change -> statements(change).stream()).toList();
  }

  /** Why an object cannot be written as statements; empty if it can. */
  Optional<String> refusal(DatabaseObject object);

  /** How a change is made of an object or part that is there. */
  Alteration alteration(SchemaChange change);

  /** Whether the statement that creates an object has a part of it in it. */
  boolean isInside(DatabaseObject object, Part part);

  /**
   * An object as its own statement can make it, where some of it needs its parts or other objects:
   * the rest is altered when those are there.
   */
  default DatabaseObject firstVersion(DatabaseObject object) {
    return object;
  }

  /**
   * Whether what depends on something may stay while that is changed.
   *
   * @param dependent an object, or the one with the part
   * @param part the part of it that depends; empty if the object itself does
   */
  boolean tolerates(SchemaChange change, DatabaseObject dependent, Optional<Part> part);

  /** Whether columns have a place among others that statements can choose. */
  default boolean placesColumns() {
    return false;
  }

  /**
   * The changes that go with another one, since the engine does not make them by itself.
   *
   * @param before the object as it is before all changes; empty if it is not there
   * @param after the object as it is after them; empty if it is not there any more
   */
  default List<SchemaChange> alongWith(
      SchemaChange change, Optional<DatabaseObject> before, Optional<DatabaseObject> after) {
    return List.of();
  }

  /** Whether a column refuses values that its type does not hold. */
  default boolean enforcesTypes() {
    return true;
  }

  /** The lock of a change that grows with its table; empty if others need not wait. */
  default Optional<Lock> lock(SchemaChange change) {
    return Optional.empty();
  }

  /** A query for the number of rows, or of keys, that a check is about. */
  String count(RowCheck check);

  /**
   * A query for some of them: the key of each row, or the values that are the matter where the
   * table has no key.
   *
   * @param key the table's primary key; may be empty
   */
  String examples(RowCheck check, List<String> key, int most);

  /** A statement in the form in which it holds up others least. */
  default GentleStatement gentle(String statement) {
    return GentleStatement.plain(statement);
  }

  /**
   * An expression whose text is a value of a column as a statement writes it; NULL where it is
   * NULL.
   *
   * @param column its name is read from the row at hand
   */
  String literal(Column column);

  /**
   * The engine's own place of a row, which orders rows where no column does; empty if it has none.
   */
  default Optional<RowPlace> rowPlace(Table table) {
    return Optional.empty();
  }

  /**
   * Where a row is, as if it were a column.
   *
   * @param moves whether a change of the row puts it at another place
   */
  record RowPlace(Column column, boolean moves) {}

  /** Whether one value comes behind another one in the order of their type. */
  default String behind(String value, String other) {
    return value + " > " + other;
  }

  /** Whether one value comes before another one in the order of their type, or is the same. */
  default String upTo(String value, String other) {
    return value + " <= " + other;
  }

  /**
   * A table in FROM, whose rows are those that an INSERT into it makes again: without the rows of
   * tables that inherit from it, and with those of its partitions.
   */
  String rowsOf(Table table);

  /** The words of an INSERT before VALUES or a query; it gives values to all columns named. */
  String insertion(Table table, List<Column> columns);

  /**
   * A query whose rows are statements that bring the numbers which the database gives out to where
   * they stand; empty where they follow from the rows.
   */
  default Optional<String> counters(Snapshot structure) {
    return Optional.empty();
  }

  /** A query for the bytes of a table with its indexes; empty where the database does not say. */
  default Optional<String> size(ObjectId table) {
    return Optional.empty();
  }

  /** The tables from which a table has its columns: what is done to those there is done to it. */
  default List<ObjectId> parents(Table table) {
    return List.of();
  }

  /** The rights that an object of this sort has by default when it is made. */
  default List<Right> defaultRights(DatabaseObject object) {
    return List.of();
  }

  /** Statements by which an engine's client reads a script as the program's own session does. */
  default List<String> clientSession() {
    return List.of();
  }

  /**
   * Statements that go before a script that makes some changes, such as settings of the session.
   */
  default List<String> preamble(Collection<SchemaChange> changes) {
    return List.of();
  }

  /** The statements with which a script ends that an engine's client runs. */
  default List<String> clientEnding(List<String> statements) {
    return List.of();
  }
}
