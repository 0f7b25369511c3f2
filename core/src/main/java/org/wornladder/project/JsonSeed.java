package org.wornladder.project;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.StringWriter;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.wornladder.ProjectException;
import org.wornladder.sql.JsonErrors;
import org.wornladder.sql.Place;

/**
 * Rows as JSON (RFC 8259): an array of objects. Read as a stream; the columns are all keys that any
 * row has.
 */
final class JsonSeed extends FileSeed {
  private static final JsonFactory FACTORY =
      JsonFactory.builder()
          .enable(com.fasterxml.jackson.core.StreamReadFeature.STRICT_DUPLICATE_DETECTION)
          .streamReadConstraints(StreamReadConstraints.builder().maxStringLength(16 << 20).build())
          .build();

  private final Set<String> optional;

  private JsonSeed(SeedSource source, List<String> columns, Set<String> optional) {
    super(source, columns);
    this.optional = Set.copyOf(optional);
  }

  static JsonSeed open(SeedSource source) {
    Map<String, Long> uses = new LinkedHashMap<>();
    long[] rows = {0};
    parse(
        source,
        parser -> {
          rows[0]++;
          while (parser.nextToken() != JsonToken.END_OBJECT) {
            uses.merge(parser.currentName(), 1L, Long::sum);
            parser.nextToken();
            parser.skipChildren();
          }
        });
    List<String> names = SeedHeader.check(source.place(), uses.keySet().toArray(String[]::new));
    Set<String> optional = new HashSet<>(names);
    optional.removeIf(name -> uses.get(name) == rows[0]);
    return new JsonSeed(source, names, optional);
  }

  /** Takes the object that begins where the parser stands, to its end. */
  interface ObjectReader<E extends Exception> {
    void object(JsonParser parser) throws IOException, E;
  }

  /** Reads an array of objects. */
  static <E extends Exception> void parse(SeedSource source, ObjectReader<E> reader) throws E {
    try (JsonParser parser = FACTORY.createParser(utf8(source.open()))) {
      if (parser.nextToken() != JsonToken.START_ARRAY) {
        throw ProjectException.of(
            source.place(), "the rows must be an array of objects", "write [ {…}, {…} ]");
      }
      while (parser.nextToken() != JsonToken.END_ARRAY) {
        if (parser.currentToken() != JsonToken.START_OBJECT) {
          throw ProjectException.of(
              place(source, parser), "a row must be an object of columns", "write {\"column\": …}");
        }
        reader.object(parser);
      }
      if (parser.nextToken() != null) {
        throw ProjectException.of(
            place(source, parser), "something stands behind the array", "end the file with it");
      }
    } catch (JsonProcessingException e) {
      int line = e.getLocation() == null ? 0 : e.getLocation().getLineNr();
      int column = e.getLocation() == null ? 0 : e.getLocation().getColumnNr();
      throw ProjectException.of(
          new Place(source.file(), Math.max(0, line), line > 0 ? column : 0),
          JsonErrors.words(e),
          "");
    } catch (CharacterCodingException e) {
      throw ProjectException.of(
          source.firstMalformed(), "this is not UTF-8", "save the file as UTF-8");
    } catch (IOException e) {
      throw source.unreadable(e);
    }
  }

  /** JSON's own reader would take UTF-16 as well. */
  private static Reader utf8(InputStream in) throws IOException {
    return ByteOrderMark.blanked(new InputStreamReader(in, StandardCharsets.UTF_8.newDecoder()));
  }

  private static Place place(SeedSource source, JsonParser parser) {
    return source.place(parser.currentTokenLocation().getLineNr());
  }

  @Override
  public Set<String> optional() {
    return optional;
  }

  @Override
  public <E extends Exception> void each(Visitor<E> visitor) throws E {
    JsonSeed.<E>parse(
        source(),
        parser -> {
          String[] values = new String[columns().size()];
          Set<Integer> leftOut = new HashSet<>();
          for (int i = 0; !optional.isEmpty() && i < values.length; i++) {
            leftOut.add(i);
          }
          JsonLocation start = parser.currentTokenLocation();
          long position = SeedSource.position(start.getLineNr(), start.getColumnNr());
          while (parser.nextToken() != JsonToken.END_OBJECT) {
            int column = columns().indexOf(parser.currentName());
            values[column] = value(parser);
            leftOut.remove(column);
          }
          visitor.row(new SeedRow(position, leftOut, values));
        });
  }

  private static String value(JsonParser parser) throws IOException {
    JsonToken token = parser.nextToken();
    if (token == JsonToken.VALUE_NULL) {
      return null;
    }
    if (token.isScalarValue()) {
      return parser.getText();
    }
    StringWriter text = new StringWriter();
    try (JsonGenerator out = FACTORY.createGenerator(text)) {
      out.copyCurrentStructureExact(parser);
    }
    return text.toString();
  }
}
