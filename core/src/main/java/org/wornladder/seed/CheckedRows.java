package org.wornladder.seed;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.SeedListener;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.ColumnLimits;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StagingTable;
import org.wornladder.engine.ValueKind;
import org.wornladder.project.Problem;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedRows;
import org.wornladder.schema.Schema;
import org.wornladder.sql.Place;

/** Rows that are checked as they pass: what must have a value has one, and keeps all of it. */
final class CheckedRows implements SeedRows {
  private static final int STOP_EVERY = 1000;
  private static final int MOST_PROBLEMS = 100;
  private static final int LONGEST_SHOWN = 40;

  private final BoundSeed seed;
  private final Staging staging;
  private final SeedListener listener;
  private final boolean[] required;
  private final ValueKind[] kinds;
  private final ColumnLimits[] limits;
  private final boolean[] optional;
  private long count;

  CheckedRows(BoundSeed seed, Staging staging, Schema schema, SeedListener listener) {
    this.seed = seed;
    this.staging = staging;
    this.listener = listener;
    List<String> names = seed.rows().columns();
    required = new boolean[names.size()];
    kinds = new ValueKind[names.size()];
    limits = new ColumnLimits[names.size()];
    optional = new boolean[names.size()];
    for (int i = 0; i < required.length; i++) {
      StagingTable.Part part = seed.stage().columns().get(i);
      Optional<LookupColumn> look =
          seed.looks().stream().filter(one -> one.part().equals(part.name())).findFirst();
      String written = look.map(LookupColumn::column).orElse(part.column().name());
      optional[i] = seed.stage().optional().contains(written);
      required[i] =
          seed.key().contains(written) || !seed.table().column(written).orElseThrow().nullable();
      kinds[i] = staging.kind(part.column());
      limits[i] = look.isPresent() ? ColumnLimits.NONE : staging.limits(part.column(), schema);
    }
  }

  /** How many rows have passed. */
  long count() {
    return count;
  }

  @Override
  public List<String> columns() {
    return seed.rows().columns();
  }

  @Override
  public Place place(long position) {
    return seed.rows().place(position);
  }

  @Override
  public Place header() {
    return seed.rows().header();
  }

  @Override
  public String fingerprint() {
    return seed.rows().fingerprint();
  }

  @Override
  public long most() {
    return seed.rows().most();
  }

  /**
   * {@inheritDoc}
   *
   * @throws ProjectException with all values that are wrong; no row behind the first of them is
   *     handed over
   */
  @Override
  public <E extends Exception> void each(Visitor<E> visitor) throws E {
    count = 0;
    List<Problem> problems = new ArrayList<>();
    seed.rows()
        .<E>each(
            row -> {
              check(row, problems);
              if (problems.isEmpty()) {
                visitor.row(row);
              } else if (problems.size() >= MOST_PROBLEMS) {
                problems.add(
                    Problem.error(
                        place(row.position()),
                        problems.size() + " values are wrong; the rows behind were not looked at",
                        Advice.NONE));
                throw new ProjectException(problems);
              }
              count++;
            });
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
  }

  private void refuseStop(long position) {
    if (listener.wantsStop()) {
      throw RefusedException.of("stopped; nothing was written", place(position).toString(), "");
    }
  }

  private void check(SeedRow row, List<Problem> problems) {
    for (int i = 0; i < required.length; i++) {
      try {
        if (!row.isNull(i)) {
          check(i, row.text(i));
        } else if (required[i] && !(optional[i] && row.isLeftOut(i))) {
          throw new BadValueException("there is no value, and it must have one");
        }
      } catch (BadValueException e) {
        String value = row.isNull(i) ? "" : ": '" + shortened(row.text(i)) + "'";
        problems.add(
            Problem.error(
                place(row.position()),
                "column " + columns().get(i) + ": " + e.getMessage() + value,
                Advice.NONE));
      }
    }
    if (count % STOP_EVERY == 0) {
      refuseStop(row.position());
    }
  }

  private void check(int column, String text) throws BadValueException {
    staging.check(kinds[column], text);
    limits[column].check(kinds[column], text);
  }

  private static String shortened(String text) {
    return text.length() <= LONGEST_SHOWN ? text : text.substring(0, LONGEST_SHOWN) + "…";
  }
}
