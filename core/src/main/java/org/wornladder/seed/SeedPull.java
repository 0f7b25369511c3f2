package org.wornladder.seed;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.wornladder.ProjectException;
import org.wornladder.PulledSeed;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StagingTable;
import org.wornladder.project.Problem;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedColumn;
import org.wornladder.project.SeedColumn.Shape;
import org.wornladder.project.SeedFiles;
import org.wornladder.project.SeedOutput;
import org.wornladder.project.SeedRows;
import org.wornladder.schema.Column;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;

/**
 * Writes the rows of tables back to their seed files: with each file's own columns, its rows in
 * their order, those it does not have behind them. Rows that did not change keep their text.
 */
public final class SeedPull implements AutoCloseable {
  private final Path root;
  private final String environment;
  private final Session session;
  private final Schema schema;
  private final Staging staging;
  private final boolean dryRun;
  private final List<Pending> pending = new ArrayList<>();

  /** A file that is complete, with what it says. */
  private record Pending(SeedOutput output, PulledSeed pulled) {}

  /**
   * @param environment its name, for messages
   * @param dryRun whether nothing is written
   */
  public SeedPull(Path root, String environment, Session session, Schema schema, boolean dryRun) {
    this.root = root;
    this.environment = environment;
    this.session = session;
    this.schema = schema;
    this.dryRun = dryRun;
    staging = session.staging();
  }

  /**
   * Completes one file beside the one that it replaces.
   *
   * @return what changes in it
   * @throws ProjectException if the table is not there, or the file that is does not fit it
   */
  public PulledSeed take(Seed seed) throws SQLException {
    staging.open();
    List<Problem> problems = new ArrayList<>();
    SeedBinder binder = new SeedBinder(schema, staging, environment, problems);
    Optional<Table> table = binder.table(seed);
    Optional<BoundSeed> bound = Optional.empty();
    if (table.isPresent() && Files.exists(root.resolve(seed.file()))) {
      SeedRows rows = SeedFiles.rows(root, seed, bytes -> {});
      if (!rows.columns().isEmpty()) {
        bound = binder.bind(seed, table.get(), rows, pending.size() + 1, false);
      }
    }
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
    List<Taken> columns = bound.map(this::ofFile).orElseGet(() -> ofTable(table.orElseThrow()));
    long present = 0;
    if (bound.isPresent()) {
      present = stage(bound.get());
    }
    SeedOutput output =
        SeedOutput.begin(
            root, seed, columns.stream().map(this::column).toList(), bound.isEmpty(), dryRun);
    try {
      String query = query(table.orElseThrow(), columns, bound);
      PulledSeed pulled = write(seed, query, output, columns, present);
      output.complete();
      pending.add(new Pending(output, pulled));
      return pulled;
    } catch (ProjectException | SQLException e) {
      output.close();
      throw e;
    }
  }

  /** Returns how many rows the file has. */
  private long stage(BoundSeed seed) throws SQLException {
    staging.make(seed.stage());
    staging.load(seed.stage(), new MarkedRows(seed.stage(), seed.rows()));
    staging.index(seed.stage());
    new StagedSeeds(session, staging, List.of()).resolve(seed);
    return new TableQueries(session).number("SELECT count(*) FROM " + staging.staged(seed.stage()));
  }

  /** Puts the files that change in their place, once all are complete. */
  public void replace() {
    for (Pending file : pending) {
      if (!file.pulled().isQuiet()) {
        file.output().replace();
      }
    }
  }

  @Override
  public void close() {
    pending.forEach(file -> file.output().close());
  }

  /**
   * A column of the file.
   *
   * @param header its name there
   * @param expression where its values come from
   * @param column what they are
   * @param same whether the file has this value already, as a condition
   */
  private record Taken(String header, String expression, Column column, String same) {}

  private List<Taken> ofFile(BoundSeed seed) {
    List<Taken> columns = new ArrayList<>();
    for (int i = 0; i < seed.rows().columns().size(); i++) {
      String header = seed.rows().columns().get(i);
      StagingTable.Part part = seed.stage().columns().get(i);
      boolean own = part.name().equals(part.column().name());
      String expression = (own ? "t" : part.name()) + "." + staging.name(part.column().name());
      String equal = staging.same(part.column(), expression, "s." + staging.name(part.name()));
      // What a row leaves to the column's default stays left out.
      String same =
          staging
              .leftOut(seed.stage(), part.name())
              .map(left -> left + " OR " + equal)
              .orElse(equal);
      columns.add(new Taken(header, expression, part.column(), same));
    }
    return columns;
  }

  private List<Taken> ofTable(Table table) {
    return table.columns().stream()
        .filter(column -> column.more(Column.GENERATED).isEmpty())
        .map(column -> new Taken(column.name(), "t." + staging.name(column.name()), column, ""))
        .toList();
  }

  private String query(Table table, List<Taken> columns, Optional<BoundSeed> seed) {
    StringBuilder query = new StringBuilder("SELECT ");
    query.append(columns.stream().map(Taken::expression).collect(Collectors.joining(", ")));
    if (seed.isPresent()) {
      query.append(", s.").append(Staging.LINE);
      columns.forEach(
          column ->
              query.append(", CASE WHEN ").append(column.same()).append(" THEN 1 ELSE 0 END"));
    }
    query.append(" FROM ").append(session.quoted(table.name())).append(" t");
    List<String> order = new ArrayList<>();
    if (seed.isPresent()) {
      for (LookupColumn look : seed.get().looks()) {
        query.append(" LEFT JOIN ").append(session.quoted(look.target())).append(' ');
        query.append(look.part()).append(" ON ");
        query.append(
            staging.equal(
                table.column(look.column()).orElseThrow(),
                "t." + staging.name(look.column()),
                look.part() + "." + staging.name(look.targetColumn())));
      }
      query.append(" LEFT JOIN ").append(staging.staged(seed.get().stage())).append(" s ON ");
      query.append(staging.matching(seed.get().stage()));
      String position = "s." + Staging.LINE;
      order.add("CASE WHEN " + position + " IS NULL THEN 1 ELSE 0 END");
      order.add(position);
    }
    List<String> key = seed.map(BoundSeed::key).orElse(table.primaryKey());
    key.forEach(column -> order.add("t." + staging.name(column)));
    if (!order.isEmpty()) {
      query.append(" ORDER BY ").append(String.join(", ", order));
    }
    return query.toString();
  }

  private PulledSeed write(
      Seed seed, String query, SeedOutput output, List<Taken> columns, long present)
      throws SQLException {
    long added = 0;
    long changed = 0;
    long found = 0;
    long last = -1;
    try (Statement sql = session.connection().createStatement()) {
      sql.setFetchSize(1000);
      try (ResultSet row = sql.executeQuery(query)) {
        while (row.next()) {
          Optional<Long> position = present == 0 ? Optional.empty() : position(row, columns.size());
          if (position.isEmpty() || position.get() == last) {
            output.add(values(row, columns));
            added++;
            continue;
          }
          last = position.get();
          found++;
          Map<Integer, Optional<String>> differing = differing(row, columns);
          if (differing.isEmpty()) {
            output.keep(last);
          } else {
            output.change(last, differing);
            changed++;
          }
        }
      }
    }
    return new PulledSeed(seed.file(), added, changed, present - found, found - changed);
  }

  private SeedColumn column(Taken column) {
    Shape shape =
        switch (staging.kind(column.column())) {
          case WHOLE, DECIMAL, TRUTH -> Shape.PLAIN;
          case JSON, LIST -> Shape.NESTED;
          default -> Shape.TEXT;
        };
    return new SeedColumn(column.header(), shape);
  }

  /** Where the file has the row, found by its key. */
  private static Optional<Long> position(ResultSet row, int columns) throws SQLException {
    long position = row.getLong(columns + 1);
    return row.wasNull() ? Optional.empty() : Optional.of(position);
  }

  private List<Optional<String>> values(ResultSet row, List<Taken> columns) throws SQLException {
    List<Optional<String>> values = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      values.add(staging.read(row, i + 1, columns.get(i).column()));
    }
    return values;
  }

  /** The values that the file does not have, by the number of their column. */
  private Map<Integer, Optional<String>> differing(ResultSet row, List<Taken> columns)
      throws SQLException {
    Map<Integer, Optional<String>> values = new LinkedHashMap<>();
    for (int i = 0; i < columns.size(); i++) {
      if (row.getInt(columns.size() + 2 + i) == 0) {
        values.put(i, staging.read(row, i + 1, columns.get(i).column()));
      }
    }
    return values;
  }
}
