package org.wornladder.engine.postgres;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.schema.EnumType;

/** How labels come to an enumerated type (manual, "ALTER TYPE"). None can be taken away. */
final class PostgresEnums {
  private PostgresEnums() {}

  /** Whether a type only gets labels, and those that it has keep their order. */
  static boolean grows(EnumType before, EnumType after) {
    List<String> kept = new ArrayList<>(after.labels());
    kept.retainAll(before.labels());
    return kept.equals(before.labels());
  }

  /** The clauses behind ALTER TYPE that add the labels, each next to one that is there by then. */
  static List<String> additions(EnumType before, EnumType after) {
    List<String> there = new ArrayList<>(before.labels());
    List<String> clauses = new ArrayList<>();
    for (int i = 0; i < after.labels().size(); i++) {
      String label = after.labels().get(i);
      if (there.contains(label)) {
        continue;
      }
      String clause = "ADD VALUE " + PostgresEngine.QUOTING.text(label);
      if (i > 0) {
        clause += " AFTER " + PostgresEngine.QUOTING.text(after.labels().get(i - 1));
      } else if (!there.isEmpty()) {
        clause += " BEFORE " + PostgresEngine.QUOTING.text(there.get(0));
      }
      there.add(i, label);
      clauses.add(clause);
    }
    return clauses;
  }
}
