package org.wornladder.change;

import java.util.List;
import org.wornladder.schema.ObjectId;

/** Rows of a table that a change depends on, or takes something from. */
public sealed interface RowCheck {
  ObjectId table();

  /** The columns that must be there to look for them; the condition of a rule names its own. */
  List<String> columns();

  /** All rows. */
  record Rows(ObjectId table) implements RowCheck {
    @Override
    public List<String> columns() {
      return List.of();
    }
  }

  /** Rows in which a column has a value. */
  record Values(ObjectId table, String column) implements RowCheck {
    @Override
    public List<String> columns() {
      return List.of(column);
    }
  }

  /** Rows in which a column has none. */
  record Nulls(ObjectId table, String column) implements RowCheck {
    @Override
    public List<String> columns() {
      return List.of(column);
    }
  }

  /** Keys that several rows have; keys with a NULL in them do not count. */
  record Doubles(ObjectId table, List<String> columns) implements RowCheck {
    public Doubles {
      columns = List.copyOf(columns);
    }
  }

  /**
   * Rows that point to a row that is not there.
   *
   * @param targetColumns as many as {@code columns}
   */
  record Orphans(ObjectId table, List<String> columns, ObjectId target, List<String> targetColumns)
      implements RowCheck {
    public Orphans {
      columns = List.copyOf(columns);
      targetColumns = List.copyOf(targetColumns);
    }
  }

  /**
   * Rows in which a column has more characters.
   *
   * @param most the characters that fit
   */
  record TooLong(ObjectId table, String column, int most) implements RowCheck {
    @Override
    public List<String> columns() {
      return List.of(column);
    }
  }

  /** Rows for which an SQL condition does not hold. */
  record Violations(ObjectId table, List<String> columns, String condition) implements RowCheck {
    public Violations {
      columns = List.copyOf(columns);
    }
  }
}
