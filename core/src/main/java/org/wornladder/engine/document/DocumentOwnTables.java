package org.wornladder.engine.document;

import com.mongodb.client.FindIterable;
import com.mongodb.client.model.Filters;
import com.mongodb.client.model.Projections;
import com.mongodb.client.model.Sorts;
import com.mongodb.client.model.Updates;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import org.bson.BsonDocument;
import org.bson.BsonInt64;
import org.bson.BsonString;
import org.bson.BsonValue;
import org.bson.conversions.Bson;
import org.wornladder.engine.OwnQuery;
import org.wornladder.engine.OwnRow;
import org.wornladder.engine.OwnTable;
import org.wornladder.engine.OwnTables;
import org.wornladder.engine.Session;

/** The tool's own tables as collections; a row's number is also the key of its document. */
record DocumentOwnTables(
    DocumentConnection connection, DelayedWrites delayed, DocumentSession session)
    implements OwnTables {
  static final String KEY = "_id";

  @Override
  public List<String> columns(String table) throws SQLException {
    session.runWaiting();
    List<BsonDocument> last =
        DocumentConnection.driver(
            () ->
                connection
                    .collection(table)
                    .find()
                    .sort(Sorts.descending(KEY))
                    .limit(1)
                    .into(new ArrayList<BsonDocument>()));
    List<String> columns = new ArrayList<>();
    last.forEach(row -> columns.addAll(row.keySet()));
    columns.remove(KEY);
    return columns;
  }

  @Override
  public void create(OwnTable table) throws SQLException {
    session.runWaiting();
    connection.run(new BsonDocument("create", new BsonString(table.name())));
  }

  @Override
  public List<OwnRow> rows(OwnQuery query) throws SQLException {
    session.runWaiting();
    List<BsonDocument> found =
        DocumentConnection.driver(() -> find(query).into(new ArrayList<BsonDocument>()));
    return found.stream().map(row -> row(row, query.columns())).toList();
  }

  private FindIterable<BsonDocument> find(OwnQuery query) {
    FindIterable<BsonDocument> rows =
        connection
            .find(query.table(), filter(query.filters()))
            .projection(Projections.include(query.columns()));
    switch (query.order()) {
      case RISING -> rows.sort(Sorts.ascending(KEY));
      case FALLING -> rows.sort(Sorts.descending(KEY));
      case ANY -> {
        // As they come.
      }
    }
    query.limit().ifPresent(limit -> rows.limit((int) limit));
    return rows;
  }

  private static OwnRow row(BsonDocument row, List<String> columns) {
    return new OwnRow(columns.stream().map(column -> text(row.get(column))).toList());
  }

  private static String text(BsonValue value) {
    if (value == null || value.isNull()) {
      return "";
    }
    return value.isString()
        ? value.asString().getValue()
        : value.isNumber() ? Long.toString(value.asNumber().longValue()) : value.toString();
  }

  private static Bson filter(List<OwnQuery.Filter> filters) {
    return filters.isEmpty()
        ? Filters.empty()
        : Filters.and(filters.stream().map(DocumentOwnTables::filter).toList());
  }

  private static Bson filter(OwnQuery.Filter filter) {
    String column = filter.column().equals(Session.NUMBER_COLUMN) ? KEY : filter.column();
    return switch (filter.comparison()) {
      case EQUAL -> Filters.eq(column, value(filter.value().orElseThrow()));
      case OTHER -> Filters.ne(column, value(filter.value().orElseThrow()));
      case GREATER -> Filters.gt(column, value(filter.value().orElseThrow()));
      case FILLED -> Filters.ne(column, new BsonString(""));
    };
  }

  private static BsonValue value(Object value) {
    return value instanceof Number number
        ? new BsonInt64(number.longValue())
        : new BsonString(value.toString());
  }

  /** The document of a row. */
  static BsonDocument document(Map<String, Object> values) {
    BsonDocument document = new BsonDocument(KEY, value(values.get(Session.NUMBER_COLUMN)));
    values.forEach((column, one) -> document.put(column, value(one)));
    return document;
  }

  @Override
  public void insertNow(String table, SortedMap<String, Object> values) throws SQLException {
    session.runWaiting();
    DocumentConnection.driver(() -> connection.collection(table).insertOne(document(values)));
  }

  @Override
  public void amend(String table, SortedMap<String, Object> values, OwnQuery.Filter where) {
    Map<String, Bson> set = new LinkedHashMap<>();
    values.forEach((column, one) -> set.put(column, Updates.set(column, value(one))));
    delayed.amend(table, filter(where).toBsonDocument(), set);
  }

  @Override
  public void delete(String table, OwnQuery.Filter where) throws SQLException {
    session.runWaiting();
    DocumentConnection.driver(() -> connection.collection(table).deleteMany(filter(where)));
  }
}
