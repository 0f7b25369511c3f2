package org.wornladder.fuzz;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.wornladder.LadderException;
import org.wornladder.project.SampleReader;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedColumn;
import org.wornladder.project.SeedFiles;
import org.wornladder.project.SeedOutput;
import org.wornladder.project.SeedRows;
import org.wornladder.sql.Place;

/** Files of rows: what can be read is the same when it is written back row by row. */
final class SeedTarget implements Fuzz.Target {
  private static final List<String> CSV =
      List.of("code,name,note\nA,\"First, \"\"best\"\"\",\nB,,\"two\nlines\"\n\"C\",x,\"\"\n");
  private static final List<String> JSON =
      List.of(
          "[ {\"code\": \"A\", \"n\": 1.50, \"m\": {\"a\": [1, null]}},\n  {\"code\": \"B\"} ]\n");
  private static final List<String> YAML =
      List.of(
          "# grades\n- code: A  # best\n  name: 'First'\n  m: {a: [1, x]}\n- {code: B, name: |x}\n"
              + "- code: C\n  note: |\n    two\n    lines\n  m:\n    - 1\n    - 2\n");
  private static final List<String> SAMPLE =
      List.of(
          "rows: 1..8\nfor-each: picking.id\nseed-number: 7\nlocale: de\ncolumns:\n"
              + "  code: { pattern: \"B-##\" }\n  sort: { one-of: { apple: 7, pear: 3 } }\n"
              + "  kg: { between: [180, 320], decimals: 1, spread: normal }\n"
              + "  day: { days: [2026-08-01, 2026-08-03], missing: 10% }\n"
              + "  end: { after: day + 1..3 days }\n  all: { formula: kg * 2 }\n"
              + "  tags: { list-of: { one-of: [a, b] }, count: 1..3 }\n");

  private final Path root;

  SeedTarget(Path root) {
    this.root = root;
  }

  @Override
  public void feed(Mutator mutator, List<String> corpus) throws IOException {
    Seed.Form form =
        mutator.any(List.of(Seed.Form.CSV, Seed.Form.JSON, Seed.Form.YAML, Seed.Form.SAMPLE));
    List<String> texts =
        switch (form) {
          case CSV -> CSV;
          case JSON -> JSON;
          case YAML -> YAML;
          default -> SAMPLE;
        };
    String file = "seeds/grade" + form.ending();
    String text = mutator.mutated(mutator.any(texts), corpus).replaceAll("[\\uD800-\\uDFFF]", "?");
    Files.createDirectories(root.resolve("seeds"));
    Files.writeString(root.resolve(file), text);
    Seed seed = new Seed(Place.of(file), form, "grade", file, List.of(), true, false, List.of());
    try {
      if (form == Seed.Form.SAMPLE) {
        SampleReader.read(root, seed);
      } else {
        writeBack(seed, text);
      }
    } catch (LadderException e) {
      // Documented: what is wrong with the file.
      return;
    }
  }

  /** Kept row by row, a file is what it was. */
  private void writeBack(Seed seed, String text) throws IOException {
    SeedRows rows = SeedFiles.rows(root, seed, bytes -> {});
    List<Long> positions = new ArrayList<>();
    rows.<RuntimeException>each(row -> positions.add(row.position()));
    if (positions.isEmpty()) {
      return;
    }
    List<SeedColumn> columns =
        rows.columns().stream().map(name -> new SeedColumn(name, SeedColumn.Shape.TEXT)).toList();
    try (SeedOutput output = SeedOutput.begin(root, seed, columns, false, false)) {
      positions.forEach(output::keep);
      output.complete();
      output.replace();
    }
    String written = Files.readString(root.resolve(seed.file()));
    if (!written.equals(text)) {
      throw new IllegalStateException("another text: " + written + "\ninstead of: " + text);
    }
  }
}
