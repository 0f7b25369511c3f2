package org.wornladder.engine.document;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import org.bson.BsonDocument;
import org.bson.BsonType;
import org.bson.BsonValue;
import org.wornladder.engine.Documents.FieldTypes;

/** Counts the types of the fields of documents, in the order in which fields are first seen. */
final class FieldCount {
  /** The names of types that differ from those of the driver (the manual's "BSON Types"). */
  private static final Map<BsonType, String> NAMES =
      Map.of(
          BsonType.DOCUMENT, "object",
          BsonType.INT32, "int",
          BsonType.INT64, "long",
          BsonType.DECIMAL128, "decimal",
          BsonType.BOOLEAN, "bool",
          BsonType.DATE_TIME, "date",
          BsonType.OBJECT_ID, "objectId",
          BsonType.BINARY, "binData",
          BsonType.REGULAR_EXPRESSION, "regex");

  private final Map<String, SortedMap<String, Long>> types = new LinkedHashMap<>();

  void take(BsonDocument document) {
    take("", document);
  }

  private void take(String around, BsonDocument document) {
    document.forEach((name, value) -> take(around + name, value));
  }

  private void take(String name, BsonValue value) {
    types
        .computeIfAbsent(name, key -> new TreeMap<>())
        .merge(type(value.getBsonType()), 1L, Long::sum);
    if (value instanceof BsonDocument document) {
      take(name + ".", document);
    } else if (value.isArray()) {
      value.asArray().forEach(element -> take(name + "[]", element));
    }
  }

  private static String type(BsonType type) {
    return NAMES.getOrDefault(type, type.name().toLowerCase(Locale.ROOT));
  }

  List<FieldTypes> fields() {
    return types.entrySet().stream()
        .map(field -> new FieldTypes(field.getKey(), field.getValue()))
        .toList();
  }
}
