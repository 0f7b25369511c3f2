package org.wornladder.engine.document;

import com.mongodb.client.model.Updates;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.bson.BsonDocument;
import org.bson.conversions.Bson;

/**
 * What is to be written to the tool's own collections, held back until something depends on it: the
 * entries behind one command travel with those ahead of the next one. If the process ends before,
 * it is as if it had ended right behind the command.
 */
final class DelayedWrites {
  /** What is held back at one moment, to go back to. */
  private record Mark(int rows, Map<Place, Map<String, Bson>> changes) {}

  /** A document of a collection that is changed. */
  private record Place(String collection, BsonDocument filter) {}

  /** A document of a collection that is new. */
  private record Row(String collection, BsonDocument document) {}

  private final DocumentConnection connection;
  private final List<Row> rows = new ArrayList<>();
  private final Map<Place, Map<String, Bson>> changes = new LinkedHashMap<>();
  private Mark mark = new Mark(0, Map.of());

  DelayedWrites(DocumentConnection connection) {
    this.connection = connection;
  }

  void insert(String collection, BsonDocument document) {
    rows.add(new Row(collection, document));
  }

  /** Sets fields of a document; those set later win. */
  void amend(String collection, BsonDocument filter, Map<String, Bson> values) {
    changes
        .computeIfAbsent(new Place(collection, filter), key -> new LinkedHashMap<>())
        .putAll(values);
  }

  /** What follows can be forgotten. */
  void begin() {
    Map<Place, Map<String, Bson>> now = new LinkedHashMap<>();
    changes.forEach((place, values) -> now.put(place, new LinkedHashMap<>(values)));
    mark = new Mark(rows.size(), now);
  }

  /** Forgets what was added since {@link #begin}, and is not written. */
  void forget() {
    rows.subList(Math.min(mark.rows(), rows.size()), rows.size()).clear();
    changes.clear();
    changes.putAll(mark.changes());
  }

  /** Forgets everything that is not written. */
  void drop() {
    rows.clear();
    changes.clear();
    mark = new Mark(0, Map.of());
  }

  boolean hasRows() {
    return !rows.isEmpty();
  }

  boolean isEmpty() {
    return rows.isEmpty() && changes.isEmpty();
  }

  /** Whether there are new documents from before {@link #begin}. */
  boolean hasEarlierRows() {
    return mark.rows() > 0;
  }

  /** Writes the new documents, neighbours of one collection at once and in their order. */
  void writeRows() throws SQLException {
    write(rows);
  }

  /** Writes those of them that are from before {@link #begin}. */
  void writeEarlierRows() throws SQLException {
    write(rows.subList(0, mark.rows()));
  }

  private void write(List<Row> written) throws SQLException {
    for (int from = 0; from < written.size(); ) {
      String collection = written.get(from).collection();
      int to = from + 1;
      while (to < written.size() && written.get(to).collection().equals(collection)) {
        to++;
      }
      connection.insert(collection, written.subList(from, to).stream().map(Row::document).toList());
      from = to;
    }
    written.clear();
    mark = new Mark(0, mark.changes());
  }

  /** Writes the changes of documents. */
  void writeChanges() throws SQLException {
    for (Map.Entry<Place, Map<String, Bson>> change : changes.entrySet()) {
      Place place = change.getKey();
      Bson set = Updates.combine(List.copyOf(change.getValue().values()));
      DocumentConnection.driver(
          () -> connection.collection(place.collection()).updateOne(place.filter(), set));
    }
    changes.clear();
    mark = new Mark(mark.rows(), Map.of());
  }
}
