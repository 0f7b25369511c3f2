package org.wornladder.seed;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.wornladder.ProjectException;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.project.Problem;
import org.wornladder.schema.Column;

/**
 * Unique values beside the key: whether all rows of a file can have theirs, and how rows change
 * places, since databases look at each row by itself while an UPDATE is on its way.
 */
record UniqueMoves(Session session, Staging staging) {
  private static final int MOST_PROBLEMS = 5;

  /**
   * Refuses values that two rows would have in the end.
   *
   * @param isNew whether the table has no rows yet
   * @throws ProjectException with the first of them
   */
  void refuseClashes(BoundSeed seed, boolean isNew) throws SQLException {
    List<Problem> problems = new ArrayList<>();
    for (List<String> unique : uniques(seed)) {
      problems.addAll(doubles(seed, unique));
      if (!isNew && problems.isEmpty()) {
        problems.addAll(heldByOthers(seed, unique));
      }
    }
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
  }

  /** What must be unique, is given by the file, and is not its key. */
  private static List<List<String>> uniques(BoundSeed seed) {
    return UniqueKeys.of(seed.table()).stream()
        .filter(unique -> seed.columns().containsAll(unique))
        .filter(unique -> !new HashSet<>(unique).equals(new HashSet<>(seed.key())))
        .toList();
  }

  private List<Problem> doubles(BoundSeed seed, List<String> unique) throws SQLException {
    String names = unique.stream().map(staging::name).collect(Collectors.joining(", "));
    String given =
        unique.stream()
            .map(column -> staging.name(column) + " IS NOT NULL")
            .collect(Collectors.joining(" AND "));
    String query =
        "SELECT min(%1$s), max(%1$s) FROM %2$s WHERE %3$s GROUP BY %4$s HAVING count(*) > 1 ORDER BY 2%5$s"
            .formatted(
                Staging.LINE,
                staging.staged(seed.stage()),
                given,
                names,
                session.atMost(MOST_PROBLEMS));
    return new TableQueries(session)
        .list(
            query,
            row ->
                problem(
                    seed,
                    row.getLong(2),
                    words(unique)
                        + " must be unique, and occurs here again; first at "
                        + seed.rows().place(row.getLong(1)),
                    "give one of the rows another value"));
  }

  private List<Problem> heldByOthers(BoundSeed seed, List<String> unique) throws SQLException {
    boolean update = seed.seed().update();
    if (update && seed.seed().delete()) {
      return List.of();
    }
    String table = session.quoted(seed.table().name());
    String isAdded =
        "NOT EXISTS (SELECT 1 FROM "
            + table
            + " o WHERE "
            + staging.matching(seed.stage(), "o")
            + ")";
    String query =
        "SELECT s."
            + Staging.LINE
            + " FROM "
            + staging.staged(seed.stage())
            + " s JOIN "
            + table
            + " t ON "
            + equal(seed, unique, "t", "s")
            + " WHERE "
            + (update ? staging.extra(staging.again(seed.stage())) : isAdded)
            + " ORDER BY 1"
            + session.atMost(MOST_PROBLEMS);
    return new TableQueries(session)
        .list(
            query,
            row ->
                problem(
                    seed,
                    row.getLong(1),
                    words(unique)
                        + " must be unique, and another row of "
                        + seed.table().name()
                        + " has this value, which "
                        + (update ? "is not in the file" : "stays as it is"),
                    "give this row another value, or bring that row into the file"));
  }

  /**
   * The statements that take values away from rows which get others, where another row of the file
   * wants them; to be run before rows are added or updated.
   *
   * @throws ProjectException if nothing can stand in their place
   */
  List<String> makeRoom(BoundSeed seed) throws SQLException {
    List<String> statements = new ArrayList<>();
    for (List<String> unique : uniques(seed)) {
      List<String> free = new ArrayList<>(unique);
      free.retainAll(seed.updated());
      String moving = moving(seed, unique);
      if (!free.isEmpty() && firstMoving(seed, moving).isPresent()) {
        statements.add(standIn(seed, free, moving));
      }
    }
    return statements;
  }

  /**
   * The statements that take values away from rows which are deleted in the end, where a row of the
   * file wants them; to be run before rows are added or updated.
   *
   * @throws ProjectException if nothing can stand in their place
   */
  List<String> leaveRoom(BoundSeed seed) throws SQLException {
    List<String> statements = new ArrayList<>();
    for (List<String> unique : uniques(seed)) {
      String wanted = wanted(seed, unique);
      Optional<Long> first = firstWanted(seed, unique);
      if (first.isPresent()) {
        List<String> free = new ArrayList<>(unique);
        free.removeAll(seed.key());
        statements.add(leave(seed, free, wanted).orElseThrow(() -> noStandIn(seed, unique, first)));
      }
    }
    return statements;
  }

  /** That a row of the file wants the values that a row has. */
  private String wanted(BoundSeed seed, List<String> unique) throws SQLException {
    return "EXISTS (SELECT 1 FROM "
        + staging.staged(staging.again(seed.stage()))
        + " w WHERE "
        + equal(seed, unique, "t", "w")
        + ")";
  }

  /** The first row of the file that wants what a row has that is not in it. */
  private Optional<Long> firstWanted(BoundSeed seed, List<String> unique) throws SQLException {
    String query =
        "SELECT w.%s FROM %s w JOIN %s t ON %s WHERE %s ORDER BY 1%s"
            .formatted(
                Staging.LINE,
                staging.staged(seed.stage()),
                session.quoted(seed.table().name()),
                equal(seed, unique, "t", "w"),
                staging.extra(staging.again(seed.stage())),
                session.atMost(1));
    return new TableQueries(session).list(query, row -> row.getLong(1)).stream().findFirst();
  }

  /** Gives the rows another value made of their own, which are all different. */
  private Optional<String> leave(BoundSeed seed, List<String> free, String wanted)
      throws SQLException {
    for (String name : free) {
      if (seed.stage().column(name).nullable()) {
        return Optional.of(staging.assignExtra(seed.stage(), name, "NULL", wanted));
      }
    }
    for (String name : free) {
      String own = "t." + staging.name(name);
      switch (staging.kind(seed.stage().column(name))) {
        case TEXT -> {
          String value = staging.standInText(own);
          return Optional.of(staging.assignExtra(seed.stage(), name, value, wanted));
        }
        case WHOLE, DECIMAL -> {
          String value = "(" + 2 * lowest(seed, name) + " - 1 - " + own + ")";
          return Optional.of(staging.assignExtra(seed.stage(), name, value, wanted));
        }
        default -> {}
      }
    }
    return Optional.empty();
  }

  private long lowest(BoundSeed seed, String column) throws SQLException {
    String table = session.quoted(seed.table().name());
    String lowest = "SELECT min(" + staging.name(column) + ") FROM " + table;
    return Math.min(0, new TableQueries(session).number(lowest));
  }

  /** That a row gets other values, and a row of the file wants those that it has. */
  private String moving(BoundSeed seed, List<String> unique) throws SQLException {
    // A value that becomes NULL is equal to nothing, nor different.
    String goes = "CASE WHEN " + equal(seed, unique, "t", "s") + " THEN 0 ELSE 1 END = 1";
    return goes + " AND " + wanted(seed, unique);
  }

  private Optional<Long> firstMoving(BoundSeed seed, String moving) throws SQLException {
    String query =
        "SELECT s."
            + Staging.LINE
            + " FROM "
            + staging.staged(seed.stage())
            + " s JOIN "
            + session.quoted(seed.table().name())
            + " t ON "
            + staging.matching(seed.stage())
            + " WHERE "
            + moving
            + session.atMost(1);
    return new TableQueries(session).list(query, row -> row.getLong(1)).stream().findFirst();
  }

  private String standIn(BoundSeed seed, List<String> free, String moving) throws SQLException {
    for (String name : free) {
      Column column = seed.stage().column(name);
      if (column.nullable()) {
        return staging.assign(seed.stage(), Map.of(name, "NULL"), moving);
      }
    }
    for (String name : free) {
      Optional<String> value = value(seed, seed.stage().column(name));
      if (value.isPresent()) {
        return staging.assign(seed.stage(), Map.of(name, value.get()), moving);
      }
    }
    throw noStandIn(seed, free, firstMoving(seed, moving));
  }

  private static ProjectException noStandIn(
      BoundSeed seed, List<String> columns, Optional<Long> position) {
    return new ProjectException(
        List.of(
            problem(
                seed,
                position.orElse(1L),
                words(columns) + " changes places between rows, and nothing can stand in its place",
                "let the column be NULL, or change these rows in a rung")));
  }

  /** A value for each row that the table does not have; empty if there is none of this type. */
  private Optional<String> value(BoundSeed seed, Column column) throws SQLException {
    return switch (staging.kind(column)) {
      case TEXT -> Optional.of(staging.standInText("s." + Staging.LINE));
      case WHOLE, DECIMAL ->
          Optional.of("(" + lowest(seed, column.name()) + " - s." + Staging.LINE + ")");
      default -> Optional.empty();
    };
  }

  private String equal(BoundSeed seed, List<String> columns, String left, String right) {
    return columns.stream()
        .map(
            column ->
                staging.equal(
                    seed.stage().column(column),
                    left + "." + staging.name(column),
                    right + "." + staging.name(column)))
        .collect(Collectors.joining(" AND "));
  }

  private static String words(List<String> columns) {
    return "(" + String.join(", ", columns) + ")";
  }

  private static Problem problem(BoundSeed seed, long position, String message, String next) {
    return new Problem(Problem.Severity.ERROR, seed.rows().place(position), message, next);
  }
}
