package org.wornladder.sql;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/**
 * The first layer of a JSON object: for a command of a document database, its name and what it says
 * beside.
 *
 * @param keys what stands under each key, as JSON, in order; strings without their quotes
 */
public record JsonObject(Map<String, String> keys) {
  private static final JsonFactory FACTORY = new JsonFactory();

  /**
   * The object that a text is.
   *
   * @param text well-formed
   */
  public static JsonObject of(String text) {
    Map<String, String> keys = new LinkedHashMap<>();
    try (JsonParser in = FACTORY.createParser(text)) {
      in.nextToken();
      while (in.nextToken() == JsonToken.FIELD_NAME) {
        String key = in.currentName();
        in.nextToken();
        int start = (int) in.currentTokenLocation().getCharOffset();
        if (in.currentToken() == JsonToken.VALUE_STRING) {
          keys.put(key, in.getText());
        } else {
          boolean isStruct = in.currentToken().isStructStart();
          String scalar = in.getText();
          in.skipChildren();
          int end = (int) in.currentTokenLocation().getCharOffset() + 1;
          keys.put(key, isStruct ? text.substring(start, end) : scalar);
        }
      }
    } catch (IOException e) {
      throw new IllegalStateException("what was split is JSON", e);
    }
    return new JsonObject(keys);
  }

  /** The first key: what a command does. */
  public String command() {
    return keys.keySet().stream().findFirst().orElse("");
  }

  /** What stands under the first key: what a command does it to. */
  public String subject() {
    return keys.getOrDefault(command(), "");
  }

  public Optional<String> get(String key) {
    return Optional.ofNullable(keys.get(key));
  }
}
