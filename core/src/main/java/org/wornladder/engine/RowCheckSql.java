package org.wornladder.engine;

import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.wornladder.change.RowCheck;
import org.wornladder.schema.ObjectId;

/** Queries for rows that a change depends on, in SQL that all engines read (SQL-92). */
record RowCheckSql(Naming naming) {
  /** How names are written. */
  interface Naming {
    String of(ObjectId id);

    String of(String name);

    /** A value as it is compared with one of another table. */
    String comparable(String expression);

    /** How many characters a value has. */
    String length(String expression);
  }

  String count(RowCheck check) {
    if (check instanceof RowCheck.Doubles doubles) {
      return "SELECT count(*) FROM (" + keys(doubles) + ") ladder_keys";
    }
    return "SELECT count(*) FROM " + rows(check);
  }

  String examples(RowCheck check, List<String> key, int most) {
    String limit = " LIMIT " + most;
    if (check instanceof RowCheck.Doubles doubles) {
      return keys(doubles) + limit;
    }
    return "SELECT "
        + list(key.isEmpty() ? shown(check) : key, naming::of)
        + " FROM "
        + rows(check)
        + limit;
  }

  private List<String> shown(RowCheck check) {
    if (check instanceof RowCheck.Orphans orphans) {
      return orphans.columns();
    }
    if (check instanceof RowCheck.TooLong tooLong) {
      return List.of(tooLong.column());
    }
    return List.of();
  }

  private String keys(RowCheck.Doubles check) {
    String columns = list(check.columns(), naming::of);
    return "SELECT %s FROM %s WHERE %s GROUP BY %s HAVING count(*) > 1"
        .formatted(columns, naming.of(check.table()), filled(check.columns(), naming::of), columns);
  }

  private static String list(List<String> names, UnaryOperator<String> write) {
    return names.isEmpty() ? "*" : names.stream().map(write).collect(Collectors.joining(", "));
  }

  private static String filled(List<String> names, UnaryOperator<String> write) {
    return names.stream()
        .map(name -> write.apply(name) + " IS NOT NULL")
        .collect(Collectors.joining(" AND "));
  }

  /** A table, and which of its rows. */
  private String rows(RowCheck check) {
    String table = naming.of(check.table());
    if (check instanceof RowCheck.Values values) {
      return table + " WHERE " + naming.of(values.column()) + " IS NOT NULL";
    }
    if (check instanceof RowCheck.Nulls nulls) {
      return table + " WHERE " + naming.of(nulls.column()) + " IS NULL";
    }
    if (check instanceof RowCheck.TooLong tooLong) {
      return table
          + " WHERE "
          + naming.length(naming.of(tooLong.column()))
          + " > "
          + tooLong.most();
    }
    if (check instanceof RowCheck.Violations violations) {
      return table + " WHERE NOT (" + violations.condition() + ")";
    }
    return check instanceof RowCheck.Orphans orphans ? orphans(orphans, table) : table;
  }

  private String orphans(RowCheck.Orphans check, String table) {
    List<String> pairs = new ArrayList<>();
    for (int i = 0; i < check.columns().size(); i++) {
      pairs.add(
          naming.comparable("ladder_target." + naming.of(check.targetColumns().get(i)))
              + " = "
              + naming.comparable("ladder_row." + naming.of(check.columns().get(i))));
    }
    return "%s ladder_row WHERE %s AND NOT EXISTS (SELECT 1 FROM %s ladder_target WHERE %s)"
        .formatted(
            table,
            filled(check.columns(), name -> "ladder_row." + naming.of(name)),
            naming.of(check.target()),
            String.join(" AND ", pairs));
  }
}
