package org.wornladder.seed;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;

/**
 * Where a reference by meaning is looked up: in the rows that its table will have once the seeds
 * are written.
 */
record LookupSources(Session session, Staging staging, List<BoundSeed> seeds) {
  /** What statements read from, each with the columns of the value and of its meaning. */
  List<String> of(LookupColumn look) throws SQLException {
    Optional<BoundSeed> target =
        seeds.stream().filter(seed -> seed.table().name().equals(look.target())).findFirst();
    return target.isPresent() ? of(look, target.get()) : List.of(session.quoted(look.target()));
  }

  private List<String> of(LookupColumn look, BoundSeed seed) throws SQLException {
    String meaning = look.meaning().name();
    if (seed.updated().contains(meaning) || seed.key().contains(meaning)) {
      return seed.seed().delete()
          ? List.of(ofFile(seed, look))
          : List.of(ofFile(seed, look), ofTable(look, extra(seed)));
    }
    String there = ofTable(look, seed.seed().delete() ? "NOT (" + extra(seed) + ")" : "1 = 1");
    boolean adds = seed.columns().contains(meaning) && seed.columns().contains(look.targetColumn());
    return adds ? List.of(added(seed, look), there) : List.of(there);
  }

  /** That the file has no row for a row of the table. */
  private String extra(BoundSeed seed) throws SQLException {
    return staging.extra(staging.again(seed.stage()));
  }

  private String ofTable(LookupColumn look, String condition) {
    return select(look, "t", "t", session.quoted(look.target()) + " t", condition);
  }

  /** The rows of the file: with their own values, or with those that the table has for them. */
  private String ofFile(BoundSeed seed, LookupColumn look) throws SQLException {
    String file = staging.staged(staging.again(seed.stage())) + " s";
    if (seed.columns().contains(look.targetColumn())) {
      return select(look, "s", "s", file, "1 = 1");
    }
    String both =
        file + " JOIN " + session.quoted(look.target()) + " t ON " + staging.matching(seed.stage());
    return select(look, "t", "s", both, "1 = 1");
  }

  /** The rows of the file that the table does not have. */
  private String added(BoundSeed seed, LookupColumn look) throws SQLException {
    String isNew =
        "NOT EXISTS (SELECT 1 FROM "
            + session.quoted(look.target())
            + " t WHERE "
            + staging.matching(seed.stage())
            + ")";
    String file = staging.staged(staging.again(seed.stage())) + " s";
    return select(look, "s", "s", file, isNew);
  }

  private String select(
      LookupColumn look, String valueOf, String meaningOf, String from, String condition) {
    String value = staging.name(look.targetColumn());
    String meaning = staging.name(look.meaning().name());
    String more = value.equals(meaning) ? "" : ", %s.%s AS %2$s".formatted(meaningOf, meaning);
    return "(SELECT %s.%s AS %2$s%s FROM %s WHERE %s)"
        .formatted(valueOf, value, more, from, condition);
  }
}
