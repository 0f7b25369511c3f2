package org.wornladder.seed;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.ProjectException;
import org.wornladder.SeedListener;
import org.wornladder.project.Sample;
import org.wornladder.project.Sample.Maker;
import org.wornladder.project.SeedRows;
import org.wornladder.seed.SampleMaking.SampleUnique;
import org.wornladder.sql.Fingerprint;
import org.wornladder.sql.Place;

/**
 * Rows that are made up: always the same ones for the same number, table and columns. Each column
 * has chances of its own, so that one more column leaves the others as they were.
 */
final class SampleRows implements SeedRows {
  private final Sample sample;
  private final SeedListener listener;
  private final String table;
  private final Map<Maker.From, List<String>> keys = new HashMap<>();
  private List<SampleUnique> unique = List.of();

  SampleRows(Sample sample, String table, SeedListener listener) {
    this.sample = sample;
    this.table = table;
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
          "seed " + source.table() + " first, or make rows for both at once");
    }
    keys.put(source, values);
  }

  /** Says which columns must be unique together. */
  void giveUnique(List<SampleUnique> constraints) {
    unique = List.copyOf(constraints);
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
  public long most() {
    return making().count() * groups().size();
  }

  @Override
  public <E extends Exception> void each(Visitor<E> visitor) throws E {
    SampleMaking making = making();
    long number = 0;
    for (Optional<String> each : groups()) {
      long count = making.count();
      for (long i = 0; i < count; i++) {
        number++;
        visitor.row(making.row(number, each));
        listener.reading(table, number, 0);
      }
    }
  }

  private SampleMaking making() {
    return new SampleMaking(sample, table, unique, keys);
  }

  /** The keys for each of which rows are made; one that is empty where they are made for none. */
  private List<Optional<String>> groups() {
    return sample
        .forEach()
        .map(source -> keys.get(source).stream().map(Optional::of).toList())
        .orElse(List.of(Optional.empty()));
  }
}
