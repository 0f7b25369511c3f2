package org.wornladder.change;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.Table;

/** One change of a structure, which an engine's writer turns into statements. */
public sealed interface SchemaChange {
  /** The object that it changes, under the name that the object has while it runs. */
  ObjectId target();

  /** The change that takes this one back; rows that are gone stay gone. */
  SchemaChange inverse();

  /** What rows lose by it, in words; empty if nothing. */
  default Optional<String> loss() {
    return Optional.empty();
  }

  /**
   * Makes an object. Parts that its own statement does not have are added by changes of their own.
   */
  record Create(DatabaseObject object) implements SchemaChange {
    @Override
    public ObjectId target() {
      return object.id();
    }

    @Override
    public SchemaChange inverse() {
      return new Drop(object);
    }
  }

  /** Drops an object with its parts. */
  record Drop(DatabaseObject object) implements SchemaChange {
    @Override
    public ObjectId target() {
      return object.id();
    }

    @Override
    public SchemaChange inverse() {
      return new Create(object);
    }

    @Override
    public Optional<String> loss() {
      return object.kind().isTable()
          ? Optional.of(
              (object.kind() == Kind.COLLECTION ? "the documents of " : "the rows of ")
                  + object.name())
          : object.kind() == Kind.SEQUENCE
              ? Optional.of("the position of " + object.name())
              : Optional.empty();
    }
  }

  /** Makes other facts of an object, not of its parts. */
  record Alter(DatabaseObject before, DatabaseObject after) implements SchemaChange {
    @Override
    public ObjectId target() {
      return after.id();
    }

    @Override
    public SchemaChange inverse() {
      return new Alter(after, before);
    }
  }

  /** Gives a table another name. */
  record RenameTable(ObjectId before, ObjectId target) implements SchemaChange {
    @Override
    public SchemaChange inverse() {
      return new RenameTable(target, before);
    }
  }

  /**
   * Makes another table of one by copying its rows.
   *
   * @param values what a column gets in rows in which it has no value, by the column's name
   */
  record Rebuild(Table before, Table after, Map<String, String> values) implements SchemaChange {
    public Rebuild {
      values = Map.copyOf(values);
    }

    /** One that leaves rows as they are. */
    public Rebuild(Table before, Table after) {
      this(before, after, Map.of());
    }

    @Override
    public ObjectId target() {
      return after.id();
    }

    @Override
    public SchemaChange inverse() {
      return new Rebuild(after, before);
    }

    @Override
    public Optional<String> loss() {
      List<String> gone =
          before.columns().stream()
              .map(Column::name)
              .filter(name -> after.column(name).isEmpty())
              .toList();
      return gone.isEmpty()
          ? Optional.empty()
          : Optional.of("the values of " + String.join(", ", gone) + " in " + after.name());
    }
  }

  /**
   * Adds a part to an object.
   *
   * @param position where among the columns; empty for the end, and for all but columns
   */
  record AddPart(ObjectId target, Part part, Optional<Position> position) implements SchemaChange {
    /** Adds a part that has no place of its own. */
    public AddPart(ObjectId target, Part part) {
      this(target, part, Optional.empty());
    }

    @Override
    public SchemaChange inverse() {
      return new DropPart(target, part);
    }
  }

  /** Drops a part of an object. */
  record DropPart(ObjectId target, Part part) implements SchemaChange {
    @Override
    public SchemaChange inverse() {
      return new AddPart(target, part);
    }

    @Override
    public Optional<String> loss() {
      boolean values =
          part instanceof Column column
              && column.more(Column.GENERATED).isEmpty()
              && target.kind() == Kind.TABLE;
      return values
          ? Optional.of("the values of " + part.name() + " in " + target.displayName())
          : Optional.empty();
    }
  }

  /**
   * Makes another part of one with the same name.
   *
   * @param position where a column moves to; empty if it stays where it is
   */
  record AlterPart(ObjectId target, Part before, Part after, Optional<Position> position)
      implements SchemaChange {
    /** Alters a part in its place. */
    public AlterPart(ObjectId target, Part before, Part after) {
      this(target, before, after, Optional.empty());
    }

    @Override
    public SchemaChange inverse() {
      return new AlterPart(target, after, before);
    }
  }

  /**
   * Gives a column a value in the rows in which it has none.
   *
   * @param expression SQL, for each row
   */
  record FillNulls(ObjectId target, String column, String expression) implements SchemaChange {
    /** Values stay: which rows had none is not known any more. */
    @Override
    public SchemaChange inverse() {
      return this;
    }
  }

  /** Gives a column another name. */
  record RenameColumn(ObjectId target, String before, String after) implements SchemaChange {
    @Override
    public SchemaChange inverse() {
      return new RenameColumn(target, after, before);
    }
  }

  /**
   * A place among a table's columns.
   *
   * @param after the column before it; empty for the first place
   * @param first the column that has the first place until then
   */
  record Position(Optional<String> after, String first) {}
}
