package org.wornladder.seed;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Collectors;
import org.wornladder.ProjectException;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions.SampleOrder;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.project.Sample;
import org.wornladder.project.SampleReader;
import org.wornladder.project.SampleWriter;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedFiles;
import org.wornladder.schema.Column;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.seed.SampleMaking.SampleUnique;
import org.wornladder.sql.Dialect;

/** Makes rows up, and gives them what they may point to. */
record SampleSource(
    Path root,
    Session session,
    Schema schema,
    Staging staging,
    Dialect dialect,
    Optional<SampleOrder> order,
    SeedListener listener) {
  private static final long ROWS_MADE = 50;

  SampleRows rows(Seed seed, Table table) {
    // Only who asks for made-up rows gets a guess; a file that the settings name must be there.
    boolean written = order.isEmpty() || SeedFiles.size(root, seed) > 0;
    OptionalLong wanted = order.map(SampleOrder::rows).orElse(OptionalLong.empty());
    if (written) {
      Sample sample = SampleReader.read(root, seed);
      Sample sized = wanted.isPresent() ? sample.withRows(wanted.getAsLong()) : sample;
      return new SampleRows(sized, table.name(), listener);
    }
    SampleGuess guess = guess(seed, table);
    Sample sample = guess.sample(seed.file(), wanted.orElse(ROWS_MADE));
    guess.unread().forEach(unread -> listener.unread(table.name(), unread));
    return new SampleRows(sample, table.name(), listener);
  }

  private SampleGuess guess(Seed seed, Table table) {
    return new SampleGuess(schema, staging, table, seed.key(), seed.place(), dialect);
  }

  /** Writes the guess as a file. */
  void write(Seed seed, Table table) {
    SampleGuess guess = guess(seed, table);
    OptionalLong wanted = order.map(SampleOrder::rows).orElse(OptionalLong.empty());
    SampleWriter.write(root, guess.sample(seed.file(), wanted.orElse(ROWS_MADE)), guess.unread());
  }

  /** What must be unique among the rows, with what the table's reference rows have. */
  private void giveUnique(SampleRows made, BoundSeed own, List<BoundSeed> others)
      throws SQLException {
    Table table = own.table();
    List<SampleUnique> unique = new ArrayList<>();
    for (List<String> columns : UniqueKeys.of(table)) {
      List<String> names = new ArrayList<>();
      for (String column : columns) {
        made.columns().stream().filter(column::equalsIgnoreCase).forEach(names::add);
      }
      if (names.size() == columns.size()) {
        unique.add(new SampleUnique(names, taken(own, columns, others)));
      }
    }
    made.giveUnique(unique);
  }

  private Set<List<String>> taken(BoundSeed own, List<String> columns, List<BoundSeed> others)
      throws SQLException {
    Set<List<String>> taken = new HashSet<>();
    for (BoundSeed other : others) {
      boolean same = other.table().name().equals(own.table().name()) && other != own;
      if (same && other.columns().containsAll(columns)) {
        String names = columns.stream().map(staging::name).collect(Collectors.joining(", "));
        String query = "SELECT " + names + " FROM " + staging.staged(other.stage());
        taken.addAll(
            new TableQueries(session)
                .list(
                    query,
                    row -> {
                      List<String> values = new ArrayList<>();
                      for (int i = 0; i < columns.size(); i++) {
                        Column column = own.table().column(columns.get(i)).orElseThrow();
                        values.add(staging.read(row, i + 1, column).orElse(""));
                      }
                      return values;
                    }));
      }
    }
    return taken;
  }

  /** Gives made-up rows what they may point to: rows that stand, and rows that will. */
  void giveKeys(SampleRows made, BoundSeed own, List<BoundSeed> others) throws SQLException {
    giveUnique(made, own, others);
    TableQueries questions = new TableQueries(session);
    for (Sample.Maker.From source : made.sources()) {
      Table table =
          schema
              .table(source.table())
              .orElseThrow(
                  () ->
                      ProjectException.of(
                          made.header(), "there is no table " + source.table(), ""));
      Column column =
          table
              .column(source.column())
              .orElseThrow(
                  () ->
                      ProjectException.of(
                          made.header(),
                          "table " + table.name() + " has no column " + source.column(),
                          ""));
      String name = staging.name(column.name());
      StringBuilder query = new StringBuilder("SELECT ").append(name).append(" FROM ");
      query.append(session.quoted(table.name())).append(" WHERE ").append(name);
      query.append(" IS NOT NULL");
      for (BoundSeed other : others) {
        boolean has = other.columns().contains(column.name());
        if (has && other.table().name().equals(table.name())) {
          query.append(" UNION SELECT ").append(name).append(" FROM ");
          query.append(staging.staged(other.stage())).append(" WHERE ").append(name);
          query.append(" IS NOT NULL");
        }
      }
      query.append(" ORDER BY 1");
      made.give(
          source, questions.list(query.toString(), row -> staging.read(row, 1, column).orElse("")));
    }
  }
}
