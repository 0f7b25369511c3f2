package org.wornladder.seed;

import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.SeedListener;
import org.wornladder.engine.StagingTable;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedRows;
import org.wornladder.sql.Place;

/** Rows that are checked as they pass: what must have a value has one, and keeps all of it. */
final class CheckedRows implements SeedRows {
  private static final Pattern DECIMAL =
      Pattern.compile("(?:numeric|decimal)\\(\\d+(?:,\\s*(\\d+))?\\)", Pattern.CASE_INSENSITIVE);
  private static final int STOP_EVERY = 1000;

  private final BoundSeed seed;
  private final SeedListener listener;
  private final boolean[] required;
  private final int[] decimals;
  private long count;

  CheckedRows(BoundSeed seed, SeedListener listener) {
    this.seed = seed;
    this.listener = listener;
    List<String> names = seed.rows().columns();
    required = new boolean[names.size()];
    decimals = new int[names.size()];
    for (int i = 0; i < required.length; i++) {
      StagingTable.Part part = seed.stage().columns().get(i);
      Optional<LookupColumn> look =
          seed.looks().stream().filter(one -> one.part().equals(part.name())).findFirst();
      String written = look.map(LookupColumn::column).orElse(part.column().name());
      required[i] =
          seed.key().contains(written) || !seed.table().column(written).orElseThrow().nullable();
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
  public <E extends Exception> void each(Visitor<E> visitor) throws E {
    count = 0;
    seed.rows()
        .<E>each(
            row -> {
              check(row);
              visitor.row(row);
              count++;
            });
  }

  private void refuseStop(long position) {
    if (listener.wantsStop()) {
      throw RefusedException.of("stopped; nothing was written", place(position).toString(), "");
    }
  }

  private void check(SeedRow row) {
    for (int i = 0; i < required.length; i++) {
      if (row.isNull(i)) {
        if (required[i]) {
          throw wrong(row, i, "there is no value, and it must have one");
        }
      } else if (decimals[i] >= 0 && fraction(row.text(i)) > decimals[i]) {
        throw wrong(
            row,
            i,
            "the column keeps " + decimals[i] + " digits behind the point, and here are more");
      }
    }
    if (count % STOP_EVERY == 0) {
      refuseStop(row.position());
    }
  }

  private ProjectException wrong(SeedRow row, int column, String what) {
    return ProjectException.of(
        place(row.position()), "column " + columns().get(column) + ": " + what, "");
  }

  /** How many digits behind the point count. */
  private static int fraction(String number) {
    int point = number.indexOf('.');
    if (point < 0 || number.indexOf('e') >= 0 || number.indexOf('E') >= 0) {
      return 0;
    }
    int end = number.length();
    while (end > point + 1 && number.charAt(end - 1) == '0') {
      end--;
    }
    return end - point - 1;
  }
}
