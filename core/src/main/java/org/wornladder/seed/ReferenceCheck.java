package org.wornladder.seed;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.project.Problem;
import org.wornladder.schema.Column;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;

/** Whether what rows point to is there, and whether rows that would go are pointed to. */
record ReferenceCheck(Session session, Staging staging, Schema schema, List<BoundSeed> seeds) {
  private static final int MOST_PROBLEMS = 5;

  /**
   * Refuses rows that point to what neither the database nor the seeds have.
   *
   * @throws ProjectException with the first of them
   */
  void refuseDangling(BoundSeed seed) throws SQLException {
    List<Problem> problems = new ArrayList<>();
    for (ForeignKey key : seed.table().foreignKeys()) {
      Optional<Table> target = schema.table(key.table());
      if (target.isPresent() && seed.columns().containsAll(key.columns())) {
        problems.addAll(dangling(seed, key, targetColumns(key, target.get())));
      }
    }
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
  }

  private static List<String> targetColumns(ForeignKey key, Table target) {
    return key.targetColumns().isEmpty() ? target.primaryKey() : key.targetColumns();
  }

  private List<Problem> dangling(BoundSeed seed, ForeignKey key, List<String> targets)
      throws SQLException {
    StringBuilder query = new StringBuilder("SELECT s.").append(Staging.LINE).append(" FROM ");
    query.append(staging.staged(seed.stage())).append(" s WHERE ");
    query.append(
        key.columns().stream()
            .map(column -> "s." + staging.name(column) + " IS NOT NULL")
            .collect(Collectors.joining(" AND ")));
    query.append(missingIn(seed, session.quoted(key.table()), key, targets));
    for (BoundSeed other : seeds) {
      if (other.table().name().equals(key.table()) && other.columns().containsAll(targets)) {
        query.append(missingIn(seed, staging.staged(staging.again(other.stage())), key, targets));
      }
    }
    query.append(" ORDER BY 1").append(session.atMost(MOST_PROBLEMS));
    return new TableQueries(session)
        .list(
            query.toString(),
            row ->
                new Problem(
                    Problem.Severity.ERROR,
                    seed.rows().place(row.getLong(1)),
                    "column "
                        + String.join(", ", key.columns())
                        + ": it points to a row of "
                        + key.table()
                        + " that is not there",
                    "add that row to the seed of " + key.table() + ", or mend the value"));
  }

  private String missingIn(BoundSeed seed, String from, ForeignKey key, List<String> targets) {
    return " AND NOT EXISTS (SELECT 1 FROM "
        + from
        + " r WHERE "
        + leading(seed.table(), key, "s", "r", targets)
        + ")";
  }

  /** That a row of a table points to a row of another. */
  private String leading(
      Table table, ForeignKey key, String from, String to, List<String> targets) {
    List<String> parts = new ArrayList<>();
    for (int i = 0; i < targets.size(); i++) {
      String column = key.columns().get(i);
      parts.add(
          staging.equal(
              table.column(column).orElseThrow(),
              from + "." + staging.name(column),
              to + "." + staging.name(targets.get(i))));
    }
    return String.join(" AND ", parts);
  }

  /**
   * Refuses deletions of rows that others point to.
   *
   * @throws RefusedException with every table that does
   */
  void refuseBereaving(BoundSeed seed) throws SQLException {
    List<RefusedException.Refusal> refusals = new ArrayList<>();
    for (Table child : schema.tables()) {
      for (ForeignKey key : child.foreignKeys()) {
        if (key.table().equals(seed.table().name())) {
          long count = count(seed, child, key, seeds);
          if (count > 0) {
            refusals.add(refusal(seed, child, count, keys(seed, child, key)));
          }
        }
      }
    }
    if (!refusals.isEmpty()) {
      throw new RefusedException(refusals);
    }
  }

  /** Whether rows that would be deleted are pointed to as objects stand. */
  boolean arePointedTo(BoundSeed seed) throws SQLException {
    for (Table child : schema.tables()) {
      for (ForeignKey key : child.foreignKeys()) {
        boolean leads = key.table().equals(seed.table().name());
        if (leads && count(seed, child, key, List.of()) > 0) {
          return true;
        }
      }
    }
    return false;
  }

  /** The first rows that would go and are pointed to, by their keys. */
  private String keys(BoundSeed seed, Table child, ForeignKey key) throws SQLException {
    List<Column> columns =
        seed.key().stream().map(name -> seed.table().column(name).orElseThrow()).toList();
    String names =
        columns.stream()
            .map(column -> "t." + staging.name(column.name()))
            .collect(Collectors.joining(", "));
    String query =
        "SELECT DISTINCT %s%s ORDER BY 1%s"
            .formatted(
                names, pointing(seed, child, key, seeds), session.atMost(MOST_PROBLEMS + 1L));
    List<String> rows =
        new TableQueries(session)
            .list(
                query,
                row -> {
                  List<String> values = new ArrayList<>();
                  for (int i = 0; i < columns.size(); i++) {
                    Column column = columns.get(i);
                    values.add(
                        column.name() + "=" + staging.read(row, i + 1, column).orElse("NULL"));
                  }
                  return String.join(", ", values);
                });
    boolean more = rows.size() > MOST_PROBLEMS;
    return String.join("; ", rows.subList(0, Math.min(rows.size(), MOST_PROBLEMS)))
        + (more ? "; …" : "");
  }

  private static RefusedException.Refusal refusal(
      BoundSeed seed, Table child, long count, String keys) {
    String table = seed.table().name();
    return new RefusedException.Refusal(
        count
            + (count == 1 ? " row of " : " rows of ")
            + child.name()
            + (count == 1 ? " points" : " point")
            + " to rows of "
            + table
            + " that are not in its file and would be deleted: "
            + keys,
        seed.seed().file(),
        "keep those rows in the file, or write extra: keep for " + table);
  }

  /** Rows of another table that point to what would go, and are not themselves put right. */
  private long count(BoundSeed seed, Table child, ForeignKey key, List<BoundSeed> others)
      throws SQLException {
    return new TableQueries(session).number("SELECT count(*)" + pointing(seed, child, key, others));
  }

  private String pointing(BoundSeed seed, Table child, ForeignKey key, List<BoundSeed> others)
      throws SQLException {
    List<String> targets = targetColumns(key, seed.table());
    StringBuilder query = new StringBuilder(" FROM ");
    query.append(session.quoted(child.name())).append(" c JOIN ");
    query.append(session.quoted(seed.table().name())).append(" t ON ");
    query
        .append(leading(child, key, "c", "t", targets))
        .append(" WHERE ")
        .append(staging.extra(seed.stage()));
    for (BoundSeed other : others) {
      if (other.table().name().equals(child.name())) {
        putRight(other, key).ifPresent(query::append);
      }
    }
    return query.toString();
  }

  /** That a row of a seeded table is neither deleted nor rewritten. */
  private Optional<String> putRight(BoundSeed other, ForeignKey key) throws SQLException {
    String inFile =
        "EXISTS (SELECT 1 FROM "
            + staging.staged(staging.again(other.stage()))
            + " s WHERE "
            + staging.matching(other.stage(), "c")
            + ")";
    boolean rewritten = other.updated().containsAll(key.columns());
    if (other.seed().delete() && rewritten) {
      return Optional.of(" AND 1 = 0");
    }
    if (other.seed().delete()) {
      return Optional.of(" AND " + inFile);
    }
    return rewritten ? Optional.of(" AND NOT " + inFile) : Optional.empty();
  }
}
