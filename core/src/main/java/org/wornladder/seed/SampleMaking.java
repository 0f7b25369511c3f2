package org.wornladder.seed;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.wornladder.ProjectException;
import org.wornladder.project.Sample;
import org.wornladder.project.Sample.Maker;
import org.wornladder.project.SeedRow;
import org.wornladder.sql.Place;

/** One going through all rows of a sample. */
final class SampleMaking {
  private static final int MOST_TRIES = 200;

  private final Sample sample;
  private final List<SampleUnique> unique;
  private final Map<Maker.From, List<String>> keys;
  private final Random counting;

  /** In an order in which each finds the columns that it is made from. */
  private final List<SampleColumn> columns;

  private final List<Set<List<String>>> seen = new ArrayList<>();

  /**
   * Columns that must be unique together, with the values that rows have which come from elsewhere.
   */
  record SampleUnique(List<String> columns, Set<List<String>> taken) {}

  /**
   * @param table the table's name
   * @param keys the values that other tables have
   */
  SampleMaking(
      Sample sample, String table, List<SampleUnique> unique, Map<Maker.From, List<String>> keys) {
    this.sample = sample;
    this.unique = unique;
    this.keys = keys;
    counting = SampleColumn.random(sample.seedNumber(), table, "", "rows");
    columns = inOrder(sample, table);
    unique.forEach(one -> seen.add(new HashSet<>(one.taken())));
  }

  private static List<SampleColumn> inOrder(Sample sample, String table) {
    List<SampleColumn> waiting = new ArrayList<>();
    sample.columns().forEach(column -> waiting.add(new SampleColumn(sample, table, column)));
    List<SampleColumn> order = new ArrayList<>();
    Set<String> made = new HashSet<>();
    while (!waiting.isEmpty()) {
      SampleColumn next =
          waiting.stream()
              .filter(column -> made.containsAll(column.needs()))
              .findFirst()
              .orElseThrow(() -> circle(sample, waiting));
      waiting.remove(next);
      order.add(next);
      made.add(next.name());
    }
    return order;
  }

  private static ProjectException circle(Sample sample, List<SampleColumn> waiting) {
    List<String> names = waiting.stream().map(SampleColumn::name).toList();
    return ProjectException.of(
        Place.of(sample.file()),
        String.join(", ", names) + " are made from each other, in a circle",
        "make one of them by itself");
  }

  /** How many rows come next: in all, or for the next row of another table. */
  long count() {
    long range = sample.most() - sample.least();
    return sample.least() + (range == 0 ? 0 : counting.nextLong(range + 1));
  }

  /**
   * The next row.
   *
   * @param each the value of the other table's column that it is made for
   * @throws ProjectException if no values are found that are unique where they must be
   */
  SeedRow row(long number, Optional<String> each) {
    Values row = new Values(number, each, new LinkedHashMap<>());
    columns.forEach(column -> row.put(column));
    Optional<SampleUnique> taken = taken(row);
    for (int tries = 0; taken.isPresent(); tries++) {
      if (tries == MOST_TRIES) {
        throw ProjectException.of(
            Place.of(sample.file() + ", row " + number),
            String.join(", ", taken.get().columns())
                + " must be unique, and no new value was found for it",
            "ask for fewer rows, or for a wider range, list or pattern");
      }
      again(row, taken.get());
      taken = taken(row);
    }
    remember(row);
    String[] values = new String[sample.columns().size()];
    for (int i = 0; i < values.length; i++) {
      values[i] = row.values().get(sample.columns().get(i).name());
    }
    return SeedRow.made(number, values);
  }

  /** The first values that a row before has. */
  private Optional<SampleUnique> taken(Values row) {
    for (int i = 0; i < unique.size(); i++) {
      List<String> values = row.of(unique.get(i).columns());
      if (!values.contains(null) && seen.get(i).contains(values)) {
        return Optional.of(unique.get(i));
      }
    }
    return Optional.empty();
  }

  /** Makes columns anew, and those that are made from them. */
  private void again(Values row, SampleUnique taken) {
    Set<String> changed = new HashSet<>(taken.columns());
    for (SampleColumn column : columns) {
      boolean derived = column.needs().stream().anyMatch(changed::contains);
      if (derived || taken.columns().contains(column.name())) {
        row.put(column);
        changed.add(column.name());
      }
    }
  }

  private void remember(Values row) {
    for (int i = 0; i < unique.size(); i++) {
      seen.get(i).add(row.of(unique.get(i).columns()));
    }
    for (SampleColumn column : columns) {
      Optional<String> value = column.needsEarlier().map(row.values()::get);
      value.ifPresent(column::remember);
    }
  }

  /**
   * A row in the making.
   *
   * @param values by column, a null for NULL
   */
  private final class Values implements SampleColumn.Row {
    private final long number;
    private final Optional<String> each;
    private final Map<String, String> values;

    Values(long number, Optional<String> each, Map<String, String> values) {
      this.number = number;
      this.each = each;
      this.values = values;
    }

    @Override
    public long number() {
      return number;
    }

    @Override
    public Map<String, String> values() {
      return values;
    }

    void put(SampleColumn column) {
      values.put(column.name(), column.next(this).orElse(null));
    }

    List<String> of(List<String> names) {
      return names.stream().map(values::get).toList();
    }

    @Override
    public String taken(Maker.From from, Random random) {
      if (each.isPresent() && sample.forEach().filter(from::equals).isPresent()) {
        return each.get();
      }
      List<String> known = keys.get(from);
      return known.get(random.nextInt(known.size()));
    }
  }
}
