package org.wornladder;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import org.wornladder.climb.Preparation;
import org.wornladder.fault.LadderException;
import org.wornladder.journal.Snapshots;
import org.wornladder.project.Direction;
import org.wornladder.project.Rung;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;

/**
 * Does for nothing what a call will do in earnest, while a server is on its way: the first time
 * takes ten times as long as those that follow, and there is nothing else to do.
 */
final class Rehearsal {
  private static final int TABLES = 10;
  private static final int ROUNDS = 5;
  private static final int RUNGS = 200;

  private Rehearsal() {}

  /**
   * Tells a structure.
   *
   * @param enough asked after every round
   */
  static void ofStructure(BooleanSupplier enough) {
    List<Table> tables = new ArrayList<>();
    for (int i = 0; i < TABLES; i++) {
      tables.add(table("bin_" + i));
    }
    Schema schema = new Schema(tables, List.of());
    for (int i = 0; i < ROUNDS && !enough.getAsBoolean(); i++) {
      Snapshots.Ready.of(schema.snapshot());
    }
  }

  /** Takes the newest rungs apart. What is wrong with them is told when they are planned. */
  static void ofPlan(Preparation preparation, List<Rung> rungs, BooleanSupplier enough) {
    try {
      for (int i = rungs.size() - 1; i >= Math.max(0, rungs.size() - RUNGS); i--) {
        if (enough.getAsBoolean()) {
          return;
        }
        preparation.statements(rungs.get(i).script(), Direction.UP);
      }
    } catch (LadderException e) {
      return;
    }
  }

  private static Table table(String name) {
    Column key = new Column("id", "integer", false, Optional.of("0"), Map.of(Column.COMMENT, "no"));
    Column code = new Column("code", "text", true, Optional.empty(), Map.of());
    return new Table(
        name,
        List.of(key, code),
        List.of(key.name()),
        Map.of(),
        List.of(ForeignKey.unnamed(List.of(key.name()), name, List.of(), "CASCADE", "CASCADE")),
        List.of(new Constraint(Kind.CHECK, Optional.empty(), name, "(id > 0)")),
        List.of(new Index(name, List.of(code.name()), false, false, false, "(code)")),
        Map.of(),
        "");
  }
}
