package org.wornladder.seed;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.wornladder.ProjectException;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.project.Problem;

/** Seeds whose rows are taken in: what is wrong with them before anything is written. */
final class StagedSeeds {
  private static final int MOST_PROBLEMS = 5;

  private final Session session;
  private final Staging staging;
  private final TableQueries questions;
  private final List<BoundSeed> seeds;

  StagedSeeds(Session session, Staging staging, List<BoundSeed> seeds) {
    this.session = session;
    this.staging = staging;
    this.questions = new TableQueries(session);
    this.seeds = seeds;
  }

  /**
   * Refuses a key that occurs twice.
   *
   * @throws ProjectException with the first of them
   */
  void refuseDoubleKeys(BoundSeed seed) throws SQLException {
    String key =
        seed.key().stream()
            .map(column -> staging.name(given(seed, column)))
            .collect(Collectors.joining(", "));
    String query =
        "SELECT min(%1$s), max(%1$s) FROM %2$s GROUP BY %3$s HAVING count(*) > 1 ORDER BY 2%4$s"
            .formatted(
                Staging.LINE, staging.staged(seed.stage()), key, session.atMost(MOST_PROBLEMS));
    List<Problem> problems =
        questions.list(
            query,
            row ->
                problem(
                    seed,
                    row.getLong(2),
                    "the key ("
                        + String.join(", ", seed.key())
                        + ") occurs here again; first at "
                        + seed.rows().place(row.getLong(1)),
                    "keep one of them, or widen key: in ladder.yaml"));
    refuse(problems);
  }

  /** The column of the stage that has what the file says of a column: its value, or its meaning. */
  private static String given(BoundSeed seed, String column) {
    return seed.looks().stream()
        .filter(look -> look.column().equals(column))
        .map(LookupColumn::part)
        .findFirst()
        .orElse(column);
  }

  /**
   * Fills what is given by meaning, from the tables as they will be once the other seeds are
   * written.
   *
   * @throws ProjectException with the first rows whose meaning leads nowhere, or to several
   */
  void resolve(BoundSeed seed) throws SQLException {
    List<Problem> problems = new ArrayList<>();
    for (LookupColumn look : seed.looks()) {
      List<String> sources = new LookupSources(session, staging, seeds).of(look);
      if (!look.isUnique()) {
        problems.addAll(ambiguous(seed, look, sources));
      }
      if (problems.isEmpty()) {
        for (String source : sources) {
          fill(seed, look, source);
        }
        problems.addAll(unresolved(seed, look));
      }
    }
    refuse(problems);
  }

  /** Fills what could not be filled before its target was written. */
  void resolveRest(BoundSeed seed) throws SQLException {
    for (LookupColumn look : seed.looks()) {
      fill(seed, look, session.quoted(look.target()));
    }
  }

  private void fill(BoundSeed seed, LookupColumn look, String from) throws SQLException {
    session.change(
        staging.resolve(
            seed.stage(), look.column(), look.part(), from, look.targetColumn(), look.meaning()));
  }

  private List<Problem> ambiguous(BoundSeed seed, LookupColumn look, List<String> sources)
      throws SQLException {
    String counts =
        sources.stream()
            .map(source -> "(SELECT count(*) FROM " + source + " r WHERE " + means(look) + ")")
            .collect(Collectors.joining(" + "));
    String query =
        "SELECT s.%s FROM %s s WHERE %s > 1"
                .formatted(Staging.LINE, staging.staged(seed.stage()), counts)
            + " ORDER BY 1"
            + session.atMost(MOST_PROBLEMS);
    return questions.list(
        query,
        row ->
            problem(
                seed,
                row.getLong(1),
                "column "
                    + look.header()
                    + ": several rows of "
                    + look.target()
                    + " have this "
                    + look.meaning().name(),
                "give the value of " + look.column() + " itself"));
  }

  /** That a row r of the target is the one that a row s of the stage means. */
  private String means(LookupColumn look) {
    return staging.equal(
        look.meaning(),
        "r." + staging.name(look.meaning().name()),
        "s." + staging.name(look.part()));
  }

  /** Rows whose meaning neither the table nor its seed has. */
  private List<Problem> unresolved(BoundSeed seed, LookupColumn look) throws SQLException {
    StringBuilder query = new StringBuilder("SELECT s.").append(Staging.LINE).append(" FROM ");
    query.append(staging.staged(seed.stage())).append(" s WHERE s.");
    query.append(staging.name(look.column())).append(" IS NULL AND s.");
    query.append(staging.name(look.part())).append(" IS NOT NULL");
    for (BoundSeed other : seeds) {
      if (other.table().name().equals(look.target())
          && other.columns().contains(look.meaning().name())) {
        query
            .append(" AND NOT EXISTS (SELECT 1 FROM ")
            .append(staging.staged(staging.again(other.stage())));
        query.append(" r WHERE ").append(means(look)).append(')');
      }
    }
    query.append(" ORDER BY 1").append(session.atMost(MOST_PROBLEMS));
    return questions.list(
        query.toString(),
        row ->
            problem(
                seed,
                row.getLong(1),
                "column "
                    + look.header()
                    + ": no row of "
                    + look.target()
                    + " has this "
                    + look.meaning().name(),
                "add it to the seed of " + look.target() + ", or mend the word"));
  }

  private static Problem problem(BoundSeed seed, long position, String message, String next) {
    return new Problem(Problem.Severity.ERROR, seed.rows().place(position), message, next);
  }

  private static void refuse(List<Problem> problems) {
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
  }
}
