package org.wornladder.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** A made-up project of many small rungs: tables, columns, indexes and rows. */
final class SampleLadder {
  private SampleLadder() {}

  /** Writes a project with so many rungs; its database is in {@code database}. */
  static void write(Path folder, Path database, int rungs) throws IOException {
    write(folder, "jdbc:sqlite:" + database, rungs);
  }

  /** Writes a project with so many rungs for the database of a URL. */
  static void write(Path folder, String url, int rungs) throws IOException {
    Files.createDirectories(folder.resolve("rungs"));
    String settings =
        "name: hollowfield\nenvironments:\n  dev:\n    url: " + url + "\n    disposable: true\n";
    Files.writeString(folder.resolve("ladder.yaml"), settings);
    for (int i = 0; i < rungs; i++) {
      String rung =
          "--| about: Change "
              + (i + 1)
              + " of the orchard\n--| up\n"
              + up(i)
              + "--| down\n"
              + down(i);
      Files.writeString(folder.resolve("rungs/%04d-change-%d.sql".formatted(i + 1, i + 1)), rung);
    }
  }

  /** The way up of the rung at an index, counted from 0. */
  static String up(int index) {
    int table = index / 4;
    return switch (index % 4) {
      case 0 ->
          "CREATE TABLE bin_"
              + table
              + " (\n  id integer PRIMARY KEY,\n  code text NOT NULL,\n"
              + "  weight_kg decimal(8,2) DEFAULT 0\n);\n";
      case 1 -> "ALTER TABLE bin_" + table + " ADD COLUMN note text;\n";
      case 2 -> "CREATE INDEX bin_" + table + "_code ON bin_" + table + " (code);\n";
      default ->
          "INSERT INTO bin_"
              + table
              + " (id, code, weight_kg) VALUES (1, 'it''s A-1', 312.5), (2, 'B-2', 298);\n";
    };
  }

  /** The way down of the rung at an index, counted from 0. */
  static String down(int index) {
    int table = index / 4;
    return switch (index % 4) {
      case 0 -> "DROP TABLE bin_" + table + ";\n";
      case 1 -> "ALTER TABLE bin_" + table + " DROP COLUMN note;\n";
      case 2 -> "DROP INDEX bin_" + table + "_code;\n";
      default -> "DELETE FROM bin_" + table + ";\n";
    };
  }
}
