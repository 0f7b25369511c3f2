package org.wornladder.sql;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadFeature;
import java.io.IOException;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.List;

/** Scripts whose statements are JSON objects: one, or an array of them (RFC 8259). */
public final class JsonCommands {
  private static final JsonFactory FACTORY =
      JsonFactory.builder().enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION).build();

  private JsonCommands() {}

  /**
   * The objects of a script, in order.
   *
   * @param origin where the text begins in its file
   * @throws SqlTextException where it is no JSON, or something else than objects
   */
  static List<Statement> split(String text, Dialect dialect, Place origin) {
    List<Statement> commands = new ArrayList<>();
    try (JsonParser in = FACTORY.createParser(text)) {
      for (JsonToken token = in.nextToken(); token != null; token = in.nextToken()) {
        if (token == JsonToken.START_OBJECT) {
          int start = offset(in.currentTokenLocation());
          in.skipChildren();
          int end = offset(in.currentTokenLocation()) + 1;
          commands.add(
              new Statement(text.substring(start, end), origin.plus(text, start), dialect));
        } else if (token.isScalarValue()) {
          throw SqlTextException.noCommand(offset(in.currentTokenLocation()));
        }
      }
    } catch (JsonProcessingException e) {
      throw SqlTextException.noJson(JsonErrors.words(e), offset(e, text));
    } catch (IOException e) {
      throw new IllegalStateException("a text in memory can always be read", e);
    }
    return commands;
  }

  private static int offset(JsonProcessingException e, String text) {
    return e.getLocation() == null
        ? 0
        : Math.max(0, Math.min(text.length(), offset(e.getLocation())));
  }

  private static int offset(JsonLocation place) {
    return (int) place.getCharOffset();
  }

  /**
   * The same object without the blanks between its parts.
   *
   * @param object well-formed
   */
  public static String compact(String object) {
    StringWriter written = new StringWriter();
    try (JsonParser in = FACTORY.createParser(object);
        JsonGenerator out = FACTORY.createGenerator(written)) {
      in.nextToken();
      out.copyCurrentStructureExact(in);
    } catch (IOException e) {
      throw new IllegalStateException("what was split is JSON", e);
    }
    return written.toString();
  }
}
