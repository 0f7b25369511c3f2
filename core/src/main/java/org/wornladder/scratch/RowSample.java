package org.wornladder.scratch;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.engine.Session;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.schema.Column;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;

/**
 * Some rows of a database, with all those that they point to. They are held in memory alone.
 *
 * @param rows each behind those that it points to, unless they point to each other
 */
public record RowSample(List<Row> rows) {
  private static final int ROWS_A_STATEMENT = 200;

  /**
   * A row.
   *
   * @param columns those that have values of their own
   * @param literals their values as statements write them
   */
  record Row(ObjectId table, List<String> columns, List<String> literals) {
    Row {
      columns = List.copyOf(columns);
      literals = List.copyOf(literals);
    }

    boolean fits(Row other) {
      return table.equals(other.table) && columns.equals(other.columns);
    }
  }

  public RowSample {
    rows = List.copyOf(rows);
  }

  /** How many rows of how many tables, in words. */
  public String words() {
    long tables = rows.stream().map(Row::table).distinct().count();
    return rows.size()
        + (rows.size() == 1 ? " row" : " rows")
        + " of "
        + tables
        + (tables == 1 ? " table" : " tables");
  }

  /**
   * Writes them into a scratch database.
   *
   * @return why that failed, in the database's words, so that none is there; empty if it did not
   */
  public Optional<String> write(EnvironmentContext scratch) throws SQLException {
    Session session = scratch.session();
    Schema there = scratch.structure();
    session.begin();
    try {
      for (int from = 0; from < rows.size(); ) {
        int to = from + 1;
        while (to < rows.size()
            && to - from < ROWS_A_STATEMENT
            && rows.get(to).fits(rows.get(from))) {
          to++;
        }
        insert(session, there, rows.subList(from, to));
        from = to;
      }
      session.commit();
    } catch (SQLException e) {
      String words = session.fault(e).message();
      session.rollback();
      return Optional.of(words);
    }
    goOn(session, there);
    return Optional.empty();
  }

  private static Optional<Table> table(Schema schema, ObjectId id) {
    return schema.tables().stream().filter(table -> table.id().equals(id)).findFirst();
  }

  private static void insert(Session session, Schema there, List<Row> rows) throws SQLException {
    Row first = rows.get(0);
    Optional<Table> table = table(there, first.table());
    if (table.isEmpty()) {
      return;
    }
    List<Column> columns = new ArrayList<>();
    List<Integer> places = new ArrayList<>();
    for (int i = 0; i < first.columns().size(); i++) {
      Optional<Column> column = table.get().column(first.columns().get(i));
      if (column.filter(one -> one.more(Column.GENERATED).isEmpty()).isPresent()) {
        columns.add(column.get());
        places.add(i);
      }
    }
    if (columns.isEmpty()) {
      return;
    }
    List<String> values = new ArrayList<>();
    for (Row row : rows) {
      values.add(
          "(" + String.join(", ", places.stream().map(i -> row.literals().get(i)).toList()) + ")");
    }
    session.change(
        session.ddl().insertion(table.get(), columns) + " VALUES " + String.join(", ", values));
  }

  /** The next numbers that the database gives out come behind those of the rows. */
  private void goOn(Session session, Schema there) throws SQLException {
    Set<ObjectId> filled = new LinkedHashSet<>();
    rows.forEach(row -> filled.add(row.table()));
    for (ObjectId id : filled) {
      Optional<Table> table = table(there, id);
      if (table.isPresent()) {
        for (String statement : session.staging().numbersGoOn(table.get())) {
          session.change(statement);
        }
      }
    }
  }
}
