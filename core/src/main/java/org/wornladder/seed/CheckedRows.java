package org.wornladder.seed;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.Advice;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.SeedListener;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StagingTable;
import org.wornladder.engine.ValueKind;
import org.wornladder.project.Problem;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedRows;
import org.wornladder.sql.Place;

/** Rows that are checked as they pass: what must have a value has one, and keeps all of it. */
final class CheckedRows implements SeedRows {
  private static final Pattern DECIMAL =
      Pattern.compile("(?:numeric|decimal)\\(\\d+(?:,\\s*(\\d+))?\\)", Pattern.CASE_INSENSITIVE);
  private static final int STOP_EVERY = 1000;
  private static final int MOST_PROBLEMS = 20;
  private static final int LONGEST_SHOWN = 40;

  private final BoundSeed seed;
  private final Staging staging;
  private final SeedListener listener;
  private final boolean[] required;
  private final ValueKind[] kinds;
  private final int[] decimals;
  private final boolean[] optional;
  private long count;

  CheckedRows(BoundSeed seed, Staging staging, SeedListener listener) {
    this.seed = seed;
    this.staging = staging;
    this.listener = listener;
    List<String> names = seed.rows().columns();
    required = new boolean[names.size()];
    kinds = new ValueKind[names.size()];
    decimals = new int[names.size()];
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
      decimals[i] = look.isPresent() ? -1 : decimals(part.column().type());
    }
  }

  /** How many digits behind the point a type keeps; -1 if it does not say. */
  private static int decimals(String type) {
    Matcher parts = DECIMAL.matcher(type);
    if (!parts.matches()) {
      return -1;
    }
    return Optional.ofNullable(parts.group(1)).map(Integer::parseInt).orElse(0);
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
    if (decimals[column] >= 0 && fraction(text) > decimals[column]) {
      throw new BadValueException(
          "the column keeps " + decimals[column] + " digits behind the point, and here are more");
    }
  }

  private static String shortened(String text) {
    return text.length() <= LONGEST_SHOWN ? text : text.substring(0, LONGEST_SHOWN) + "…";
  }

  /** How many digits behind the point count. */
  private static int fraction(String number) {
    if (number.indexOf('e') >= 0 || number.indexOf('E') >= 0) {
      return Math.max(0, new BigDecimal(number).stripTrailingZeros().scale());
    }
    int point = number.indexOf('.');
    if (point < 0) {
      return 0;
    }
    int end = number.length();
    while (end > point + 1 && number.charAt(end - 1) == '0') {
      end--;
    }
    return end - point - 1;
  }
}
