package org.wornladder.project;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Writes rows as a new seed file: CSV by RFC 4180 with a header of column names, an empty unquoted
 * field for NULL and {@code ""} for an empty text; JSON; or YAML.
 */
public final class SeedWriter implements SeedOutput {
  private final PendingFile file;
  private final Seed.Form form;
  private final List<SeedColumn> columns;
  private boolean isFirst = true;

  SeedWriter(PendingFile file, Seed.Form form, List<SeedColumn> columns) {
    this.file = file;
    this.form = form;
    this.columns = columns;
    if (form == Seed.Form.CSV) {
      write(CsvText.line(columns.stream().map(column -> Optional.of(column.name())).toList()));
      write("\n");
    }
  }

  /** The place of a table's rows as CSV. */
  public static String csvFile(String table) {
    return Seed.FOLDER + "/" + SchemaWriter.fileName(table) + Seed.Form.CSV.ending();
  }

  @Override
  public void keep(long position) {
    throw new IllegalStateException("a new file has no row to keep");
  }

  @Override
  public void change(long position, Map<Integer, Optional<String>> values) {
    throw new IllegalStateException("a new file has no row to change");
  }

  @Override
  public void add(List<Optional<String>> values) {
    switch (form) {
      case CSV -> write(CsvText.line(values) + "\n");
      case JSON -> write((isFirst ? "[\n  " : ",\n  ") + JsonText.row(columns, values));
      default -> write(YamlText.row(columns, values));
    }
    isFirst = false;
  }

  private void write(String text) {
    try {
      file.out().write(text);
    } catch (IOException e) {
      throw file.unwritable(e);
    }
  }

  @Override
  public void complete() {
    if (form == Seed.Form.JSON) {
      write(isFirst ? "[]\n" : "\n]\n");
    } else if (form != Seed.Form.CSV && isFirst) {
      write("[]\n");
    }
    file.complete();
  }

  @Override
  public void replace() {
    file.replace();
  }

  @Override
  public void close() {
    file.close();
  }
}
