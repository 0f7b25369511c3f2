package org.wornladder.seed;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import net.datafaker.Faker;
import org.wornladder.ProjectException;
import org.wornladder.SeedListener;
import org.wornladder.project.Sample;
import org.wornladder.project.Sample.Maker;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedRows;
import org.wornladder.sql.Fingerprint;
import org.wornladder.sql.Place;

/**
 * Rows that are made up: always the same ones for the same number. Each column has numbers of its
 * own, so that one more column leaves the others as they were.
 */
final class SampleRows implements SeedRows {
  private static final int MOST_TRIES = 200;

  private final Sample sample;
  private final SeedListener listener;
  private final String label;
  private final List<List<Integer>> unique;
  private final Map<Maker.From, List<String>> keys = new HashMap<>();

  /**
   * @param unique the columns that must be unique together, by their places
   */
  SampleRows(Sample sample, String label, List<List<Integer>> unique, SeedListener listener) {
    this.sample = sample;
    this.label = label;
    this.unique = List.copyOf(unique);
    this.listener = listener;
  }

  /** The columns of tables that values are taken from. */
  List<Maker.From> sources() {
    List<Maker.From> sources = new ArrayList<>();
    sample.forEach().ifPresent(sources::add);
    for (Sample.Column column : sample.columns()) {
      if (column.maker() instanceof Maker.From from) {
        sources.add(from);
      }
    }
    return sources;
  }

  /** Says which values a column of a table has, in a settled order. */
  void give(Maker.From source, List<String> values) {
    if (values.isEmpty()) {
      throw ProjectException.of(
          Place.of(sample.file()),
          source.table() + "." + source.column() + " has no value to take",
          "seed " + source.table() + " first, or add rows to it");
    }
    keys.put(source, values);
  }

  @Override
  public List<String> columns() {
    return sample.columns().stream().map(Sample.Column::name).toList();
  }

  /** Rows that are made have no line: their number says them. */
  @Override
  public Place place(long position) {
    return Place.of(sample.file() + ", row " + position);
  }

  @Override
  public Place header() {
    return Place.of(sample.file());
  }

  @Override
  public String fingerprint() {
    return Fingerprint.ofParts(List.of(sample.toString()));
  }

  @Override
  public <E extends Exception> void each(Visitor<E> visitor) throws E {
    Making making = new Making();
    long number = 0;
    if (sample.forEach().isEmpty()) {
      for (long i = 0; i < making.count(); i++) {
        visitor.row(making.row(++number, Optional.empty()));
      }
      return;
    }
    for (String key : keys.get(sample.forEach().get())) {
      long count = making.count();
      for (long i = 0; i < count; i++) {
        visitor.row(making.row(++number, Optional.of(key)));
      }
    }
  }

  /** One going through all rows. */
  private final class Making {
    private final Random counting = new Random(mix("rows"));
    private final List<Random> choosing = new ArrayList<>();
    private final List<Random> missing = new ArrayList<>();
    private final List<Faker> fakers = new ArrayList<>();
    private final List<Set<List<String>>> seen = new ArrayList<>();

    Making() {
      for (Sample.Column column : sample.columns()) {
        Random random = new Random(mix(column.name()));
        choosing.add(random);
        missing.add(new Random(mix(column.name() + " missing")));
        fakers.add(column.maker() instanceof Maker.MadeUp ? faker(column, random) : null);
      }
      unique.forEach(columns -> seen.add(new HashSet<>()));
    }

    private static Faker faker(Sample.Column column, Random random) {
      try {
        return new Faker(Locale.ENGLISH, random);
      } catch (NoClassDefFoundError e) {
        throw ProjectException.of(
            column.place(),
            "the library of made-up values is not on the class path",
            "add net.datafaker:datafaker to the dependencies of the program");
      }
    }

    private long mix(String word) {
      return sample.seedNumber() * 0x9E37_79B9_7F4A_7C15L + word.hashCode() * 0x1_0000_0001L;
    }

    long count() {
      long range = sample.most() - sample.least();
      return sample.least() + (range == 0 ? 0 : counting.nextLong(range + 1));
    }

    SeedRow row(long number, Optional<String> each) {
      String[] values = new String[sample.columns().size()];
      for (int i = 0; i < values.length; i++) {
        values[i] = value(i, number, each);
      }
      for (int i = 0; i < unique.size(); i++) {
        makeUnique(i, values, number, each);
      }
      listener.reading(label, number, 0);
      return SeedRow.made(number, values);
    }

    /** Makes columns anew until together they are what no row before has. */
    private void makeUnique(int constraint, String[] values, long number, Optional<String> each) {
      List<Integer> columns = unique.get(constraint);
      for (int tries = 0; tries < MOST_TRIES; tries++) {
        List<String> made = columns.stream().map(column -> values[column]).toList();
        if (made.contains(null) || seen.get(constraint).add(made)) {
          return;
        }
        for (int column : columns) {
          values[column] = value(column, number, each);
        }
      }
      List<String> names = columns.stream().map(column -> columns().get(column)).toList();
      throw ProjectException.of(
          place(number),
          String.join(", ", names) + " must be unique, and no new value was found for it",
          "ask for fewer rows, or for a wider range, list or pattern");
    }

    private String value(int index, long number, Optional<String> each) {
      Sample.Column column = sample.columns().get(index);
      if (column.missing() > 0 && missing.get(index).nextInt(100) < column.missing()) {
        return null;
      }
      Random random = choosing.get(index);
      if (column.maker() instanceof Maker.MadeUp made) {
        return madeUp(fakers.get(index), made, column);
      }
      if (column.maker() instanceof Maker.From from) {
        return taken(from, random, each);
      }
      return SampleValues.of(column.maker(), random, number);
    }

    private String taken(Maker.From from, Random random, Optional<String> each) {
      if (each.isPresent() && sample.forEach().filter(from::equals).isPresent()) {
        return each.get();
      }
      List<String> values = keys.get(from);
      return values.get(random.nextInt(values.size()));
    }

    private String madeUp(Faker faker, Maker.MadeUp made, Sample.Column column) {
      try {
        return faker.expression("#{" + made.expression() + "}");
      } catch (RuntimeException e) {
        throw ProjectException.of(
            column.place(),
            "the library of made-up values has no " + made.expression(),
            "such as name.fullName, address.city, lorem.sentence");
      }
    }
  }
}
