package org.wornladder.seed;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.ProjectException;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions.SampleOrder;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.project.Sample;
import org.wornladder.project.SampleReader;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedFiles;
import org.wornladder.schema.Column;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;

/** Makes rows up, and gives them what they may point to. */
record SampleSource(
    Path root,
    Session session,
    Schema schema,
    Staging staging,
    Optional<SampleOrder> order,
    SeedListener listener) {
  private static final long ROWS_MADE = 50;

  SampleRows rows(Seed seed, Table table) {
    // Only who asks for made-up rows gets a guess; a file that the settings name must be there.
    boolean written = order.isEmpty() || SeedFiles.size(root, seed) > 0;
    OptionalLong wanted = order.map(SampleOrder::rows).orElse(OptionalLong.empty());
    Sample sample =
        written
            ? SampleReader.read(root, seed)
            : new SampleGuess(schema, staging, table, seed.key(), seed.place())
                .sample(seed.file(), wanted.orElse(ROWS_MADE));
    Sample sized = written && wanted.isPresent() ? sample.withRows(wanted.getAsLong()) : sample;
    List<String> names =
        sized.columns().stream().map(column -> column.name().toLowerCase(Locale.ROOT)).toList();
    List<List<Integer>> unique = new ArrayList<>();
    for (List<String> columns : UniqueKeys.of(table)) {
      List<Integer> places =
          columns.stream().map(column -> names.indexOf(column.toLowerCase(Locale.ROOT))).toList();
      if (!places.contains(-1)) {
        unique.add(places);
      }
    }
    return new SampleRows(sized, seed.label(), unique, listener);
  }

  /** Gives made-up rows what they may point to: rows that stand, and rows that will. */
  void giveKeys(SampleRows made, List<BoundSeed> others) throws SQLException {
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
