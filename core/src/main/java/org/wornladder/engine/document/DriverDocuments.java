package org.wornladder.engine.document;

import com.mongodb.client.MongoCollection;
import com.mongodb.client.model.BulkWriteOptions;
import com.mongodb.client.model.DeleteOneModel;
import com.mongodb.client.model.Filters;
import com.mongodb.client.model.InsertOneModel;
import com.mongodb.client.model.Projections;
import com.mongodb.client.model.UpdateOneModel;
import com.mongodb.client.model.Updates;
import com.mongodb.client.model.WriteModel;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import org.bson.BsonDocument;
import org.bson.BsonValue;
import org.bson.conversions.Bson;
import org.bson.json.JsonParseException;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.Documents;

/** Documents through the driver. They are brought into collections by bulk writes. */
record DriverDocuments(DocumentConnection connection) implements Documents {
  private static final int DELETED_AT_ONCE = 1000;
  private static final BulkWriteOptions IN_ANY_ORDER = new BulkWriteOptions().ordered(false);

  @Override
  public FieldSample fields(String collection, int most) throws SQLException {
    List<BsonDocument> documents = new ArrayList<>();
    DocumentConnection.driver(
        () -> connection.collection(collection).find().limit(most).into(documents));
    FieldCount count = new FieldCount();
    documents.forEach(count::take);
    return new FieldSample(documents.size(), count.fields());
  }

  @Override
  public Parsed parse(String json, List<String> key) throws BadValueException {
    BsonDocument document;
    try {
      document = DocumentJson.document(json);
    } catch (JsonParseException e) {
      throw new BadValueException("this is not Extended JSON: " + e.getMessage());
    }
    for (String field : key) {
      if (!document.containsKey(field)) {
        throw new BadValueException("it has no " + field + ", which is part of the key");
      }
    }
    return new Parsed(keyOf(document, key), document);
  }

  private static String keyOf(BsonDocument document, List<String> key) {
    StringBuilder text = new StringBuilder();
    for (String field : key) {
      BsonValue value = document.get(field);
      text.append(text.isEmpty() ? "" : ", ").append(field).append('=');
      text.append(value == null ? "" : BsonComparison.text(value));
    }
    return text.toString();
  }

  @Override
  public List<String> values(String collection, String field) throws SQLException {
    SortedSet<String> values = new TreeSet<>();
    Bson only = Projections.include(field);
    DocumentConnection.driver(
        () -> {
          for (BsonDocument document : connection.collection(collection).find().projection(only)) {
            Optional.ofNullable(document.get(field))
                .map((BsonValue value) -> DocumentJson.text(value))
                .ifPresent(values::add);
          }
          return values;
        });
    return List.copyOf(values);
  }

  @Override
  public boolean isEmpty(String collection) throws SQLException {
    return DocumentConnection.driver(
            () -> connection.collection(collection).find().limit(1).into(new ArrayList<>()))
        .isEmpty();
  }

  @Override
  public List<Outcome> take(
      Into into, List<Parsed> documents, boolean empty, int shown, boolean writes)
      throws SQLException {
    Map<String, BsonDocument> there = empty ? Map.of() : there(into, documents);
    List<Outcome> outcomes = new ArrayList<>();
    List<WriteModel<BsonDocument>> changes = new ArrayList<>();
    for (Parsed one : documents) {
      BsonDocument document = (BsonDocument) one.content();
      BsonDocument stands = there.get(one.key());
      Outcome outcome = outcome(into, document, stands, changes.size() < shown);
      outcomes.add(outcome);
      if (outcome.fate() == Fate.ADDED) {
        changes.add(new InsertOneModel<>(document));
      } else if (outcome.fate() == Fate.UPDATED) {
        changes.add(new UpdateOneModel<>(only(stands), changed(document, outcome)));
      }
    }
    if (writes) {
      write(into, changes);
    }
    return outcomes;
  }

  private void write(Into into, List<WriteModel<BsonDocument>> changes) throws SQLException {
    if (!changes.isEmpty()) {
      DocumentConnection.driver(
          () -> connection.collection(into.collection()).bulkWrite(changes, IN_ANY_ORDER));
    }
  }

  private static Bson only(BsonDocument stands) {
    return Filters.eq(DocumentOwnTables.KEY, stands.get(DocumentOwnTables.KEY));
  }

  private static Bson changed(BsonDocument document, Outcome outcome) {
    return Updates.combine(
        outcome.fields().stream()
            .map(field -> Updates.set(field.name(), document.get(field.name())))
            .toList());
  }

  /** The documents that stand under the keys of others. */
  private Map<String, BsonDocument> there(Into into, List<Parsed> documents) throws SQLException {
    List<BsonDocument> wanted =
        documents.stream().map(one -> (BsonDocument) one.content()).toList();
    List<BsonDocument> found = new ArrayList<>();
    MongoCollection<BsonDocument> collection = connection.collection(into.collection());
    DocumentConnection.driver(() -> collection.find(keys(into, wanted)).into(found));
    Map<String, BsonDocument> there = new HashMap<>();
    found.forEach(document -> there.put(keyOf(document, into.key()), document));
    return there;
  }

  private static Bson keys(Into into, List<BsonDocument> wanted) {
    if (into.key().size() == 1) {
      String field = into.key().get(0);
      return Filters.in(field, wanted.stream().map(document -> document.get(field)).toList());
    }
    return Filters.or(
        wanted.stream()
            .map(
                document ->
                    Filters.and(
                        into.key().stream()
                            .map(field -> Filters.eq(field, document.get(field)))
                            .toList()))
            .toList());
  }

  private static Outcome outcome(
      Into into, BsonDocument wanted, BsonDocument stands, boolean shown) {
    if (stands == null) {
      return new Outcome(Fate.ADDED, shown ? fields(wanted, new BsonDocument()) : List.of());
    }
    List<Field> fields = into.update() ? fields(wanted, stands) : List.of();
    return new Outcome(fields.isEmpty() ? Fate.UNCHANGED : Fate.UPDATED, fields);
  }

  private static List<Field> fields(BsonDocument wanted, BsonDocument stands) {
    List<Field> fields = new ArrayList<>();
    wanted.forEach(
        (name, value) -> {
          BsonValue now = stands.get(name);
          if (now == null || !BsonComparison.same(value, now)) {
            fields.add(
                new Field(
                    name,
                    Optional.ofNullable(now).map(DocumentJson::text),
                    Optional.of(DocumentJson.text(value))));
          }
        });
    return fields;
  }

  @Override
  public List<String> others(Into into, Set<String> keys, boolean deletes) throws SQLException {
    List<String> others = new ArrayList<>();
    List<WriteModel<BsonDocument>> deletions = new ArrayList<>();
    List<BsonDocument> all = new ArrayList<>();
    DocumentConnection.driver(
        () ->
            connection
                .collection(into.collection())
                .find()
                .projection(Projections.include(into.key()))
                .into(all));
    for (BsonDocument document : all) {
      String key = keyOf(document, into.key());
      if (!keys.contains(key)) {
        others.add(key);
        deletions.add(new DeleteOneModel<>(only(document)));
      }
    }
    for (int from = 0; deletes && from < deletions.size(); from += DELETED_AT_ONCE) {
      write(into, deletions.subList(from, Math.min(deletions.size(), from + DELETED_AT_ONCE)));
    }
    return others;
  }
}
