package org.wornladder.engine.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** How tables are partitioned, as the clause that says so (MariaDB, "Partitioning Types"). */
final class MariadbPartitions {
  static final String QUERY =
      """
      SELECT table_name, partition_method, partition_expression, partition_name,
          partition_description, subpartition_method, subpartition_expression, subpartition_name
        FROM information_schema.partitions
       WHERE table_schema = %s AND partition_name IS NOT NULL
       ORDER BY table_name, partition_ordinal_position, subpartition_ordinal_position""";

  private String method = "";
  private String by = "";
  private String subBy = "";
  private final Set<String> partitions = new LinkedHashSet<>();
  private int rows;

  private MariadbPartitions() {}

  /**
   * The clauses by table.
   *
   * @param of is closed
   */
  static Map<String, String> read(ResultSet of) throws SQLException {
    Map<String, MariadbPartitions> tables = new LinkedHashMap<>();
    try (ResultSet row = of) {
      while (row.next()) {
        tables.computeIfAbsent(row.getString(1), name -> new MariadbPartitions()).add(row);
      }
    }
    Map<String, String> clauses = new LinkedHashMap<>();
    tables.forEach((table, partitions) -> clauses.put(table, partitions.clause()));
    return clauses;
  }

  private void add(ResultSet row) throws SQLException {
    rows++;
    method = row.getString(2);
    by = method + " (" + (row.getString(3) == null ? "" : row.getString(3)) + ")";
    String name = MariadbEngine.QUOTING.name(row.getString(4));
    String limit = row.getString(5);
    String values =
        method.startsWith("RANGE")
            ? " VALUES LESS THAN " + (limit.equals("MAXVALUE") ? limit : "(" + limit + ")")
            : method.startsWith("LIST") ? " VALUES IN (" + limit + ")" : "";
    partitions.add("PARTITION " + name + values);
    if (row.getString(6) != null) {
      subBy = " SUBPARTITION BY " + row.getString(6) + " (" + row.getString(7) + ")";
    }
  }

  private String clause() {
    boolean counted = method.contains("HASH") || method.contains("KEY");
    List<String> parts = new ArrayList<>(partitions);
    String sub =
        subBy.isEmpty() ? "" : subBy + " SUBPARTITIONS " + rows / Math.max(1, partitions.size());
    return "PARTITION BY "
        + by
        + (counted ? " PARTITIONS " + parts.size() : sub + " (" + String.join(", ", parts) + ")");
  }
}
