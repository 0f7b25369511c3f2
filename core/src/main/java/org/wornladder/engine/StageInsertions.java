package org.wornladder.engine;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.Advice;
import org.wornladder.ProjectException;
import org.wornladder.project.Problem;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedRows;

/** INSERTs that take rows into a temporary table, for a client that has no other way. */
public record StageInsertions(Staging staging, StagingTable stage) {
  private static final int ROWS_IN_ONE = 200;

  /**
   * The statements, in the order of the rows.
   *
   * @throws ProjectException for a value that cannot be written, with its place
   */
  public List<String> of(SeedRows rows) {
    List<String> statements = new ArrayList<>();
    List<String> waiting = new ArrayList<>();
    rows.<RuntimeException>each(
        row -> {
          waiting.add(values(rows, row));
          if (waiting.size() == ROWS_IN_ONE) {
            statements.add(insert(waiting));
            waiting.clear();
          }
        });
    if (!waiting.isEmpty()) {
      statements.add(insert(waiting));
    }
    return statements;
  }

  private String insert(List<String> rows) {
    List<String> names = new ArrayList<>(List.of(Staging.LINE));
    stage.columns().forEach(part -> names.add(staging.name(part.name())));
    return "INSERT INTO %s (%s) VALUES\n  %s"
        .formatted(staging.staged(stage), String.join(", ", names), String.join(",\n  ", rows));
  }

  private String values(SeedRows rows, SeedRow row) {
    List<String> values = new ArrayList<>(List.of(Long.toString(row.position())));
    for (int i = 0; i < row.size(); i++) {
      try {
        ValueKind kind = staging.kind(stage.columns().get(i).column());
        values.add(row.isNull(i) ? "NULL" : staging.literal(kind, row.text(i)));
      } catch (BadValueException e) {
        throw new ProjectException(
            List.of(Problem.error(rows.place(row.position()), e.getMessage(), Advice.NONE)));
      }
    }
    return "(" + String.join(", ", values) + ")";
  }
}
