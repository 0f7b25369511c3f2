package org.wornladder.project;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/**
 * Writes a file anew that is held in memory: rows that are kept are cut out of its text, and so is
 * what stands between them.
 */
abstract class TextRevision implements SeedOutput {
  private final PendingFile file;
  private final SeedSource source;
  private final List<SeedColumn> columns;
  private final Map<Long, Integer> numbers = new LinkedHashMap<>();
  private final List<Map<String, String>> expected = new ArrayList<>();
  private final StringBuilder written = new StringBuilder();
  private final String text;
  private final List<Row> rows;
  private final List<Map<String, String>> present;
  private boolean isFirst = true;

  /**
   * A row of the file.
   *
   * @param start where its text begins
   * @param end where it ends
   * @param fields by the name of their column, in the file's order
   */
  record Row(long position, int start, int end, Map<String, Field> fields) {}

  /**
   * A value in a row.
   *
   * @param key where the name of its column begins
   * @param keyEnd where the name ends
   * @param start where the value begins
   * @param end where it ends
   */
  record Field(int key, int keyEnd, int start, int end) {}

  TextRevision(PendingFile file, SeedSource source, List<SeedColumn> columns) {
    this.file = file;
    this.source = source;
    this.columns = columns;
    Problems problems = new Problems();
    Optional<String> read = source.text(problems);
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    text = read.orElseThrow();
    rows = rows(text);
    present = values(text);
    int done = 0;
    for (int i = 0; i < rows.size(); i++) {
      Row row = rows.get(i);
      boolean isInOrder = done <= row.start() && row.start() <= row.end();
      if (!isInOrder || row.fields().values().stream().anyMatch(field -> !isWithin(field, row))) {
        throw unknownLayout();
      }
      done = row.end();
      numbers.put(rows.get(i).position(), i);
    }
  }

  private static boolean isWithin(Field field, Row row) {
    return row.start() <= field.key()
        && field.keyEnd() <= field.start()
        && field.start() <= field.end()
        && field.end() <= row.end();
  }

  /** The rows of a text that has at least one. */
  abstract List<Row> rows(String text);

  /** A row's text with other values. */
  abstract String changed(Row row, Map<Integer, Optional<String>> values);

  /** The text of a row that is added. */
  abstract String added(List<Optional<String>> values);

  /** What stands between a row and one that is added behind it. */
  abstract String separator();

  /** The rows of a file as they are read. */
  abstract SeedRows read(SeedSource changed);

  final List<SeedColumn> columns() {
    return columns;
  }

  final String text() {
    return text;
  }

  final List<Row> rows() {
    return rows;
  }

  final String text(int start, int end) {
    return text.substring(start, end);
  }

  @Override
  public final void keep(long position) {
    int number = numbers.get(position);
    Row row = rows.get(number);
    row(number, text(row.start(), row.end()));
    expected.add(present.get(number));
  }

  @Override
  public final void change(long position, Map<Integer, Optional<String>> values) {
    int number = numbers.get(position);
    row(number, changed(rows.get(number), values));
    Map<String, String> expect = new LinkedHashMap<>(present.get(number));
    values.forEach((column, value) -> put(expect, column, value));
    expected.add(expect);
  }

  private void row(int number, String row) {
    if (isFirst) {
      written.append(text, 0, rows.get(0).start());
    } else {
      written.append(text, rows.get(number - 1).end(), rows.get(number).start());
    }
    written.append(row);
    isFirst = false;
  }

  @Override
  public final void add(List<Optional<String>> values) {
    if (isFirst) {
      written.append(text, 0, rows.get(0).start());
    } else {
      written.append(separator());
    }
    written.append(added(values));
    isFirst = false;
    Map<String, String> expect = new LinkedHashMap<>();
    for (int i = 0; i < values.size(); i++) {
      put(expect, i, values.get(i));
    }
    expected.add(expect);
  }

  private void put(Map<String, String> row, int column, Optional<String> value) {
    String name = columns.get(column).name();
    row.remove(name);
    value.ifPresent(given -> row.put(name, comparable(given, columns.get(column))));
  }

  private List<Map<String, String>> values(String whole) {
    SeedRows read = read(source.withText(whole));
    List<Map<String, String>> values = new ArrayList<>();
    read.<RuntimeException>each(
        row -> {
          Map<String, String> one = new LinkedHashMap<>();
          for (int i = 0; i < row.size(); i++) {
            if (!row.isNull(i)) {
              one.put(read.columns().get(i), row.text(i));
            }
          }
          for (SeedColumn column : columns) {
            one.computeIfPresent(column.name(), (name, value) -> comparable(value, column));
          }
          values.add(one);
        });
    return values;
  }

  private static String comparable(String value, SeedColumn column) {
    return column.shape() == SeedColumn.Shape.NESTED
        ? JsonText.compact(value).orElse(value)
        : value;
  }

  @Override
  public final void complete() {
    if (isFirst) {
      written.append(empty());
    } else {
      written.append(text, rows.get(rows.size() - 1).end(), text.length());
    }
    refuseOtherValues();
    try {
      file.out().append(written);
    } catch (IOException e) {
      throw file.unwritable(e);
    }
    file.complete();
  }

  /** The text of a file whose rows are all gone. */
  abstract String empty();

  /** Reads the new text back, and refuses it if its rows are not the expected ones. */
  private void refuseOtherValues() {
    if (isFirst) {
      return;
    }
    try {
      if (values(written.toString()).equals(expected)) {
        return;
      }
    } catch (ProjectException e) {
      throw unknownLayout();
    }
    throw unknownLayout();
  }

  private ProjectException unknownLayout() {
    return ProjectException.of(
        Place.of(source.file()),
        "the rows cannot be put into this file's own layout",
        "delete the file, so that it is written anew");
  }

  @Override
  public final void replace() {
    file.replace();
  }

  @Override
  public final void close() {
    file.close();
  }
}
