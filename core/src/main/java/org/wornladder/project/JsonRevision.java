package org.wornladder.project;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Writes a JSON file anew in which most rows stay as they are. */
final class JsonRevision extends TextRevision {
  private final Gaps gaps;

  /**
   * What stands between the parts of a row.
   *
   * @param open from its brace to its first column's name
   * @param colon from a name to its value
   * @param between from a value to the next column's name
   * @param close from the last value to the closing brace
   */
  private record Gaps(String open, String colon, String between, String close) {}

  JsonRevision(PendingFile file, SeedSource source, List<SeedColumn> columns) {
    super(file, source, columns);
    gaps = gaps(rows().get(rows().size() - 1));
  }

  private Gaps gaps(Row row) {
    if (row.fields().isEmpty()) {
      return new Gaps(" ", ": ", ", ", " ");
    }
    Iterator<Field> fields = row.fields().values().iterator();
    Field first = fields.next();
    Field last = first;
    String open = text(row.start() + 1, first.key());
    String between = open.contains("\n") ? "," + open : ", ";
    if (fields.hasNext()) {
      last = fields.next();
      between = text(first.end(), last.key());
    }
    while (fields.hasNext()) {
      last = fields.next();
    }
    String close = text(last.end(), row.end() - 1);
    return new Gaps(open, text(first.keyEnd(), first.start()), between, close);
  }

  @Override
  List<Row> rows(String text) {
    List<Row> rows = new ArrayList<>();
    try (JsonParser parser =
        new JsonFactory().createParser(new StringReader(ByteOrderMark.blanked(text)))) {
      parser.nextToken();
      while (parser.nextToken() == JsonToken.START_OBJECT) {
        rows.add(row(parser, text));
      }
    } catch (IOException e) {
      throw new IllegalStateException("the rows were read before", e);
    }
    return rows;
  }

  private static Row row(JsonParser parser, String text) throws IOException {
    JsonLocation start = parser.currentTokenLocation();
    Map<String, Field> fields = new LinkedHashMap<>();
    while (parser.nextToken() != JsonToken.END_OBJECT) {
      int key = start(parser);
      int keyEnd = endOfString(text, key);
      String name = parser.currentName();
      parser.nextToken();
      int value = start(parser);
      parser.skipChildren();
      fields.put(name, new Field(key, keyEnd, value, end(parser)));
    }
    long position = SeedSource.position(start.getLineNr(), start.getColumnNr());
    return new Row(position, (int) start.getCharOffset(), end(parser), fields);
  }

  private static int start(JsonParser parser) {
    return (int) parser.currentTokenLocation().getCharOffset();
  }

  /** Behind the closing quote; the parser is beyond it already when it has read a name. */
  private static int endOfString(String text, int start) {
    int end = start + 1;
    while (text.charAt(end) != '"') {
      end += text.charAt(end) == '\\' ? 2 : 1;
    }
    return end + 1;
  }

  private static int end(JsonParser parser) throws IOException {
    parser.finishToken();
    return (int) parser.currentLocation().getCharOffset();
  }

  @Override
  String changed(Row row, Map<Integer, Optional<String>> values) {
    StringBuilder changed = new StringBuilder();
    int done = row.start();
    int last = row.start() + 1;
    for (Map.Entry<String, Field> field : row.fields().entrySet()) {
      Field at = field.getValue();
      last = at.end();
      Optional<String> value = value(field.getKey(), at, values);
      if (value.isPresent()) {
        changed.append(text(), done, at.start()).append(value.get());
        done = at.end();
      }
    }
    changed.append(text(), done, last);
    boolean isEmpty = row.fields().isEmpty();
    for (int i = 0; i < columns().size(); i++) {
      boolean isNew = values.containsKey(i) && !row.fields().containsKey(columns().get(i).name());
      if (isNew && values.get(i).isPresent()) {
        changed.append(isEmpty ? gaps.open() : gaps.between()).append(field(i, values.get(i)));
        isEmpty = false;
      }
    }
    return changed.append(text(), last, row.end()).toString();
  }

  /** The new text of a value, of the old one's type where it can be; empty if it stays. */
  private Optional<String> value(String name, Field at, Map<Integer, Optional<String>> values) {
    for (Map.Entry<Integer, Optional<String>> value : values.entrySet()) {
      SeedColumn column = columns().get(value.getKey());
      if (column.name().equals(name)) {
        SeedColumn.Shape shape =
            switch (text().charAt(at.start())) {
              case '"' -> SeedColumn.Shape.TEXT;
              case '{', '[' -> column.shapeOverNested(value.getValue().orElse(""));
              default -> column.shape();
            };
        return Optional.of(JsonText.value(value.getValue(), shape));
      }
    }
    return Optional.empty();
  }

  private String field(int column, Optional<String> value) {
    SeedColumn of = columns().get(column);
    return JsonText.string(of.name()) + gaps.colon() + JsonText.value(value, of.shape());
  }

  @Override
  String added(List<Optional<String>> values) {
    List<String> fields = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      fields.add(field(i, values.get(i)));
    }
    return "{" + gaps.open() + String.join(gaps.between(), fields) + gaps.close() + "}";
  }

  @Override
  String separator() {
    List<Row> rows = rows();
    if (rows.size() > 1) {
      return text(rows.get(rows.size() - 2).end(), rows.get(rows.size() - 1).start());
    }
    String before = text(0, rows.get(0).start());
    return "," + before.substring(before.indexOf('[') + 1);
  }

  @Override
  SeedRows read(SeedSource changed) {
    return JsonSeed.open(changed);
  }

  @Override
  String empty() {
    return "[]\n";
  }
}
