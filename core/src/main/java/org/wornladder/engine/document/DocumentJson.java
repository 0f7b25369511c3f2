package org.wornladder.engine.document;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import java.io.IOException;
import java.util.Map;
import java.util.Optional;
import org.bson.BSONException;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonDouble;
import org.bson.BsonValue;
import org.bson.json.JsonMode;
import org.bson.json.JsonParseException;
import org.bson.json.JsonWriterSettings;

/** Documents in MongoDB Extended JSON v2, relaxed (its specification, "Extended JSON"). */
final class DocumentJson {
  private static final JsonFactory FACTORY = new JsonFactory();
  private static final JsonWriterSettings RELAXED =
      JsonWriterSettings.builder().outputMode(JsonMode.RELAXED).build();

  private static final String ONLY = "v";

  private DocumentJson() {}

  static String text(BsonDocument document) {
    return document.toJson(RELAXED);
  }

  /** A value of any type. */
  static String text(BsonValue value) {
    String wrapped = text(new BsonDocument(ONLY, value));
    return wrapped.substring(wrapped.indexOf(':') + 1, wrapped.length() - 1).strip();
  }

  /**
   * The document that a text is.
   *
   * @throws JsonParseException if it is none, or a value is not of the type that it names
   */
  static BsonDocument document(String json) {
    try {
      BsonDocument document = BsonDocument.parse(json);
      if (isInfinite(document)) {
        refuseTooLarge(json);
      }
      return document;
    } catch (JsonParseException
        | BSONException
        | IllegalArgumentException
        | ArithmeticException e) {
      // The parser throws what the types throw: of an object id of five digits, for one.
      throw new JsonParseException(withoutClass(String.valueOf(e.getMessage())), e);
    }
  }

  /** Why a text is not Extended JSON; empty if it is. */
  static Optional<String> mistake(String json) {
    try {
      document(json);
      return Optional.empty();
    } catch (JsonParseException e) {
      return Optional.of("this is not Extended JSON: " + e.getMessage());
    }
  }

  private static boolean isInfinite(BsonValue value) {
    return value instanceof BsonDocument document
        ? document.values().stream().anyMatch(DocumentJson::isInfinite)
        : value instanceof BsonArray array
            ? array.stream().anyMatch(DocumentJson::isInfinite)
            : value instanceof BsonDouble number && Double.isInfinite(number.getValue());
  }

  /** A number may be infinite if it says so; one that only has too many digits may not. */
  private static void refuseTooLarge(String json) {
    try (JsonParser in = FACTORY.createParser(json)) {
      while (in.nextToken() != null) {
        if (in.currentToken().isNumeric() && Double.isInfinite(Double.parseDouble(in.getText()))) {
          throw new JsonParseException(
              in.getText() + " is too large for a double; {\"$numberDecimal\": \"…\"} holds more");
        }
      }
    } catch (IOException e) {
      throw new IllegalStateException("a text in memory can always be read", e);
    }
  }

  /** A message without the exception's class that a wrapped one begins with. */
  private static String withoutClass(String message) {
    return message.replaceFirst("^[\\w.]+Exception: ", "");
  }

  /** The value that a text is. */
  static BsonValue value(String json) {
    return BsonDocument.parse("{\"" + ONLY + "\": " + json + "}").get(ONLY);
  }

  /** A document with some keys of a map, whose texts are JSON. */
  static BsonDocument of(Map<String, String> values) {
    BsonDocument document = new BsonDocument();
    values.forEach((key, json) -> document.put(key, value(json)));
    return document;
  }
}
