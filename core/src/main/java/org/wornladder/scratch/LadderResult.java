package org.wornladder.scratch;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.wornladder.change.ChangeScript;
import org.wornladder.change.ChangeScript.Origin;
import org.wornladder.change.Ddl;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.change.LeftOut;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/**
 * What rungs make of an empty database: its structure with owners and grants, its rows, and how far
 * its counters are; with the statements that make the same.
 *
 * @param rows what is in the tables, for comparison
 * @param counts how many rows a table has; none for an empty one
 * @param before statements for all but triggers, which would fire for the rows
 * @param insertions statements that put the rows in, by table, each behind those that its rows
 *     point to
 * @param counters statements that bring the database's counters to where they are
 * @param triggers statements for these
 * @param leftOut what cannot be written
 */
public record LadderResult(
    Snapshot structure,
    RowCopy rows,
    Map<ObjectId, Long> counts,
    List<String> before,
    Map<ObjectId, List<String>> insertions,
    List<String> counters,
    List<String> triggers,
    List<LeftOut> leftOut) {
  private static final int ROWS_A_STATEMENT = 500;

  /** Runs a project's rungs up to one in a scratch database, and reads what they leave. */
  public static LadderResult of(ProjectContext project, EnvironmentContext scratch, long upTo)
      throws SQLException {
    ScratchRunner runner = new ScratchRunner(project);
    runner.createMissingSchemas(scratch);
    Snapshot blank = scratch.structure().snapshot();
    runner.run(scratch, OptionalLong.of(upTo));
    Schema schema = scratch.structure();
    Snapshot structure = schema.snapshot();
    Ddl ddl = scratch.session().ddl();
    Map<ObjectId, Long> counts = new LinkedHashMap<>();
    Map<ObjectId, List<String>> insertions = new LinkedHashMap<>();
    for (Table table : TableOrder.parentsFirst(schema.tables())) {
      List<String> rows = literals(scratch, table);
      if (!rows.isEmpty()) {
        counts.put(table.id(), (long) rows.size());
        insertions.put(table.id(), insertions(ddl, table, rows));
      }
    }
    Snapshot untriggered = structure.without(Kind.TRIGGER);
    List<LeftOut> leftOut = new ArrayList<>();
    return new LadderResult(
        structure,
        RowCopy.of(scratch, schema),
        counts,
        between(blank, untriggered, ddl, leftOut),
        insertions,
        counters(scratch, structure),
        between(untriggered, structure, ddl, leftOut),
        leftOut);
  }

  /** Rows as statements write them, in brackets, in the order of the table's key. */
  private static List<String> literals(EnvironmentContext scratch, Table table)
      throws SQLException {
    String order =
        table.primaryKey().isEmpty()
            ? IntStream.rangeClosed(1, RowLiterals.columns(table).size())
                .mapToObj(Integer::toString)
                .collect(Collectors.joining(", "))
            : table.primaryKey().stream()
                .map(scratch.engine().quoting()::name)
                .collect(Collectors.joining(", "));
    return RowLiterals.read(scratch, table, " ORDER BY " + order).stream()
        .map(values -> "  (" + String.join(", ", values) + ")")
        .toList();
  }

  private static List<String> insertions(Ddl ddl, Table table, List<String> rows) {
    List<String> statements = new ArrayList<>();
    for (int i = 0; i < rows.size(); i += ROWS_A_STATEMENT) {
      statements.add(
          ddl.insertion(table, RowLiterals.columns(table))
              + " VALUES\n"
              + String.join(",\n", rows.subList(i, Math.min(rows.size(), i + ROWS_A_STATEMENT))));
    }
    return statements;
  }

  private static List<String> counters(EnvironmentContext scratch, Snapshot structure)
      throws SQLException {
    Optional<String> query = scratch.session().ddl().counters(structure);
    List<String> counters = new ArrayList<>();
    if (query.isPresent()) {
      try (Statement sql = scratch.session().connection().createStatement();
          ResultSet rows = sql.executeQuery(query.get())) {
        while (rows.next()) {
          counters.add(rows.getString(1));
        }
      }
    }
    return counters;
  }

  /**
   * Statements that make the same of an empty database.
   *
   * @param without tables whose rows are left out
   */
  public List<String> statements(Set<ObjectId> without) {
    List<String> statements = new ArrayList<>(before);
    insertions.forEach(
        (table, rows) -> {
          if (!without.contains(table)) {
            statements.addAll(rows);
          }
        });
    statements.addAll(counters);
    statements.addAll(triggers);
    return statements;
  }

  private static List<String> between(
      Snapshot before, Snapshot after, Ddl ddl, List<LeftOut> leftOut) {
    List<Difference> differences = Differences.withRights(before, after);
    ChangeScript script = ChangeScript.of(differences, before, after, ddl, Origin.TWO_DATABASES);
    leftOut.addAll(script.leftOut());
    return script.statements();
  }

  /**
   * In what another result differs, in words.
   *
   * @param without tables whose rows do not count
   */
  public List<String> differences(LadderResult other, Set<ObjectId> without) {
    List<String> found = new ArrayList<>();
    Differences.withRights(structure, other.structure)
        .forEach(difference -> found.add(difference.description() + " differs"));
    if (found.isEmpty()) {
      rows.without(without).differences(other.rows.without(without), structure).forEach(found::add);
      if (without.isEmpty() && !counters.equals(other.counters)) {
        found.add("the next numbers of rows are other ones");
      }
    }
    return found;
  }
}
