package org.wornladder.seed;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.wornladder.ProjectException;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StagingTable;
import org.wornladder.project.Problem;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedFiles;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedWriter;
import org.wornladder.schema.Column;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;

/**
 * Writes the rows of a table back to its seed file: with the file's own columns, its rows in their
 * order, those it does not have behind them.
 */
public final class SeedPull {
  private static final int MOST_TEXTS = 100_000;

  private final Path root;
  private final String environment;
  private final Session session;
  private final Schema schema;
  private final Staging staging;
  private int files;

  /**
   * @param environment its name, for messages
   */
  public SeedPull(Path root, String environment, Session session, Schema schema) {
    this.root = root;
    this.environment = environment;
    this.session = session;
    this.schema = schema;
    staging = session.staging();
  }

  /**
   * Writes one file; it is replaced once all rows are in it.
   *
   * @return how many rows were written
   * @throws ProjectException if the table is not there, or the file that is does not fit it
   */
  public long write(Seed seed) throws SQLException {
    files++;
    staging.open();
    List<Problem> problems = new ArrayList<>();
    SeedBinder binder = new SeedBinder(schema, staging, environment, problems);
    Optional<Table> table = binder.table(seed);
    Optional<BoundSeed> bound = Optional.empty();
    if (table.isPresent() && Files.exists(root.resolve(seed.file()))) {
      bound = binder.bind(seed, table.get(), SeedFiles.rows(root, seed, bytes -> {}), files, false);
    }
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
    List<Taken> columns = bound.map(this::ofFile).orElseGet(() -> ofTable(table.orElseThrow()));
    if (bound.isPresent()) {
      staging.make(bound.get().stage());
      staging.load(bound.get().stage(), bound.get().rows());
      staging.index(bound.get().stage());
      new StagedSeeds(session, staging, List.of()).resolve(bound.get());
    }
    return write(seed, columns, query(table.orElseThrow(), columns, bound), texts(bound));
  }

  /** The rows of the file as they are, by position; none of a file that is very large. */
  private static Map<Long, SeedRow> texts(Optional<BoundSeed> bound) {
    Map<Long, SeedRow> texts = new HashMap<>();
    if (bound.isPresent()) {
      bound
          .get()
          .rows()
          .<RuntimeException>each(
              row -> {
                if (texts.size() < MOST_TEXTS) {
                  texts.put(row.position(), row);
                }
              });
    }
    return texts;
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
      String same = staging.same(part.column(), expression, "s." + staging.name(part.name()));
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

  private long write(Seed seed, List<Taken> columns, String query, Map<Long, SeedRow> texts)
      throws SQLException {
    long count = 0;
    List<SeedWriter.Column> header =
        columns.stream()
            .map(column -> new SeedWriter.Column(column.header(), isPlain(column.column())))
            .toList();
    try (SeedWriter writer = SeedWriter.begin(root, seed, header);
        Statement sql = session.connection().createStatement()) {
      sql.setFetchSize(1000);
      try (ResultSet rows = sql.executeQuery(query)) {
        while (rows.next()) {
          writer.row(row(rows, columns, texts));
          count++;
        }
      }
      writer.finish();
    }
    return count;
  }

  private boolean isPlain(Column column) {
    return switch (staging.kind(column)) {
      case WHOLE, DECIMAL, TRUTH -> true;
      default -> false;
    };
  }

  /** A value that is the file's keeps the text that it has there. */
  private List<Optional<String>> row(ResultSet row, List<Taken> columns, Map<Long, SeedRow> texts)
      throws SQLException {
    int count = columns.size();
    Optional<SeedRow> before =
        texts.isEmpty() ? Optional.empty() : Optional.ofNullable(texts.get(row.getLong(count + 1)));
    List<Optional<String>> values = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      boolean kept = before.isPresent() && row.getInt(count + 2 + i) == 1;
      values.add(kept ? text(before.get(), i) : staging.read(row, i + 1, columns.get(i).column()));
    }
    return values;
  }

  private static Optional<String> text(SeedRow row, int column) {
    return row.isNull(column) ? Optional.empty() : Optional.of(row.text(column));
  }
}
