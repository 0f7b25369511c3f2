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
          partition_description, subpartition_method, subpartition_expression, subpartition_name,
          partition_comment
        FROM information_schema.partitions
       WHERE table_schema = %s AND partition_name IS NOT NULL
       ORDER BY table_name, partition_ordinal_position, subpartition_ordinal_position""";

  private static final String BY_SYSTEM_TIME = "PARTITION BY SYSTEM_TIME";

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
    String comment = row.getString(9);
    String words = comment.isEmpty() ? "" : " COMMENT = " + MariadbEngine.QUOTING.text(comment);
    partitions.add("PARTITION " + name + values + words);
    if (row.getString(6) != null) {
      subBy = " SUBPARTITION BY " + row.getString(6) + " (" + row.getString(7) + ")";
    }
  }

  /** Whether a clause is one of which the information schema does not say all. */
  static boolean isIncomplete(String clause) {
    return clause.startsWith(BY_SYSTEM_TIME);
  }

  /** The clause in a table's own statement, for one that is incomplete. */
  static String inStatement(String statement) {
    String clause = statement.substring(statement.indexOf(BY_SYSTEM_TIME));
    return clause.replaceAll(" ENGINE = \\w+", "").replaceAll("\\s*\\n\\s*", " ").strip();
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
