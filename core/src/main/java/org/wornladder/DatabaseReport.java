package org.wornladder;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.engine.Documents.FieldSample;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;

/**
 * What is in a database.
 *
 * @param rowCounts of each table that may be read, by name
 */
public record DatabaseReport(
    String environment,
    String address,
    boolean isThere,
    Schema schema,
    Map<String, Long> rowCounts) {

  /**
   * The fields of a collection, inferred from its first documents.
   *
   * @param documents how many the collection has
   */
  public record OfFields(
      String environment, String collection, long documents, FieldSample sample) {}

  /**
   * One table with its first rows.
   *
   * @param header the columns' names, in the table's order
   * @param rows values as text; an empty one is NULL
   */
  public record OfTable(
      String environment,
      Table table,
      long rowCount,
      List<String> header,
      List<List<Optional<String>>> rows) {}
}
