package org.wornladder.seed;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.RowChange;
import org.wornladder.SeedCounts;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.schema.Column;

/** Compares the rows of a seed with those of its table. */
final class RowComparison {
  private final Session session;
  private final Staging staging;
  private final TableQueries questions;
  private final BoundSeed seed;
  private final String missing;
  private final String differing;

  RowComparison(Session session, Staging staging, BoundSeed seed) {
    this.session = session;
    this.staging = staging;
    this.seed = seed;
    questions = new TableQueries(session);
    missing = "t." + staging.name(seed.key().get(0)) + " IS NULL";
    List<String> updated = seed.updated();
    differing =
        updated.isEmpty() ? "1 = 0" : staging.differing(seed.stage(), seed.table(), updated);
  }

  /** How many rows are added, updated, deleted, and as they should be. */
  SeedCounts counts() throws SQLException {
    String query =
        "SELECT count(*), sum(CASE WHEN "
            + missing
            + " THEN 1 ELSE 0 END), sum(CASE WHEN NOT ("
            + missing
            + ") AND "
            + differing
            + " THEN 1 ELSE 0 END)"
            + staging.joined(seed.stage());
    long deleted =
        seed.seed().delete()
            ? questions.number(
                "SELECT count(*) FROM "
                    + session.quoted(seed.table().name())
                    + " t WHERE "
                    + staging.extra(seed.stage()))
            : 0;
    return questions
        .list(
            query,
            row ->
                new SeedCounts(
                    row.getLong(2),
                    row.getLong(3),
                    deleted,
                    row.getLong(1) - row.getLong(2) - row.getLong(3)))
        .get(0);
  }

  /** The first rows that change, those of the file in its order, then those that go. */
  List<RowChange> changes(int most) throws SQLException {
    List<RowChange> changes = new ArrayList<>(inFile(most));
    if (seed.seed().delete() && changes.size() < most) {
      changes.addAll(deleted(most - changes.size()));
    }
    return changes;
  }

  private List<RowChange> inFile(int most) throws SQLException {
    List<Column> columns = columns();
    List<String> selected = new ArrayList<>();
    columns.forEach(column -> selected.add("s." + staging.name(column.name())));
    columns.forEach(column -> selected.add("t." + staging.name(column.name())));
    // What is looked up in rows that are still to come is shown as the file says it.
    seed.looks().forEach(look -> selected.add("s." + staging.name(look.part())));
    if (!seed.stage().optional().isEmpty()) {
      selected.add(staging.leftOutColumn());
    }
    String query =
        "SELECT s."
            + Staging.LINE
            + ", CASE WHEN "
            + missing
            + " THEN 1 ELSE 0 END, "
            + String.join(", ", selected)
            + staging.joined(seed.stage())
            + " WHERE "
            + missing
            + " OR "
            + differing
            + " ORDER BY s."
            + Staging.LINE
            + session.atMost(most);
    return questions.list(query, row -> change(row, columns));
  }

  private List<Column> columns() {
    return seed.table().columns().stream()
        .filter(column -> seed.columns().contains(column.name()))
        .toList();
  }

  private RowChange change(ResultSet row, List<Column> columns) throws SQLException {
    boolean added = row.getInt(2) == 1;
    List<RowChange.Field> fields = new ArrayList<>();
    List<String> key = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      Column column = columns.get(i);
      Optional<String> after = after(row, i, columns);
      Optional<String> before = staging.read(row, 3 + columns.size() + i, column);
      if (seed.key().contains(column.name())) {
        key.add(column.name() + "=" + after.orElse("NULL"));
      }
      boolean changes = seed.updated().contains(column.name()) && !before.equals(after);
      if ((added || changes) && !isLeftOut(row, column, 3 + 2 * columns.size())) {
        fields.add(new RowChange.Field(column.name(), before, after));
      }
    }
    RowChange.Kind kind = added ? RowChange.Kind.ADDED : RowChange.Kind.UPDATED;
    return new RowChange(
        kind, seed.rows().place(row.getLong(1)).line(), String.join(", ", key), fields);
  }

  /**
   * Whether a row leaves a column to its default.
   *
   * @param from the number of the first value that is neither the file's nor the table's
   */
  private boolean isLeftOut(ResultSet row, Column column, int from) throws SQLException {
    int place = seed.stage().optional().indexOf(column.name());
    return place >= 0 && row.getString(from + seed.looks().size()).charAt(place) == '1';
  }

  private Optional<String> after(ResultSet row, int index, List<Column> columns)
      throws SQLException {
    Column column = columns.get(index);
    Optional<String> value = staging.read(row, 3 + index, column);
    for (int i = 0; value.isEmpty() && i < seed.looks().size(); i++) {
      LookupColumn look = seed.looks().get(i);
      if (look.column().equals(column.name())) {
        String meaning = row.getString(3 + 2 * columns.size() + i);
        return Optional.ofNullable(meaning)
            .map(text -> "that of " + look.target() + " " + look.meaning().name() + "=" + text);
      }
    }
    return value;
  }

  private List<RowChange> deleted(int most) throws SQLException {
    List<Column> key =
        columns().stream().filter(column -> seed.key().contains(column.name())).toList();
    String names =
        String.join(", ", key.stream().map(column -> "t." + staging.name(column.name())).toList());
    String query =
        "SELECT "
            + names
            + " FROM "
            + session.quoted(seed.table().name())
            + " t WHERE "
            + staging.extra(seed.stage())
            + " ORDER BY "
            + names
            + session.atMost(most);
    return questions.list(
        query,
        row -> {
          List<String> values = new ArrayList<>();
          for (int i = 0; i < key.size(); i++) {
            values.add(
                key.get(i).name() + "=" + staging.read(row, i + 1, key.get(i)).orElse("NULL"));
          }
          return new RowChange(RowChange.Kind.DELETED, 0, String.join(", ", values), List.of());
        });
  }
}
