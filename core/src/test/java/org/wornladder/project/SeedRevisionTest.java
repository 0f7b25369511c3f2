package org.wornladder.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.ProjectException;
import org.wornladder.project.Seed.Form;
import org.wornladder.project.SeedColumn.Shape;
import org.wornladder.sql.Place;

/** Seed files written anew: rows that did not change keep their text, whatever their layout. */
class SeedRevisionTest {
  @TempDir Path root;

  private static final String BLOCK =
      """
      # The grades that the packing house knows.

      - code: A          # the best
        name: "First"
        sizes: [1, 2]
      # What is left of the season:
      - code: B
        name: 'Second'   # as it was
        sizes:
          - 3
          - 4

      - code: C
        name: Third
        note: |
          Two lines
          of text.
        sizes: {low: 5}
      # The end.
      """;

  private static final String FLOW =
      """
      - {code: A, name: "First", sizes: [1, 2]}
      - {code: B, name: 'Second', sizes: [3, 4]}  # as it was
      - {code: C, name: Third, note: "Two lines\\nof text.\\n", sizes: {low: 5}}
      """;

  private static final String JSON =
      """
      [
        { "code": "A", "name": "First", "sizes": [1, 2] },
        { "code": "B",
          "name": "Second", "sizes": [3,4] },

        { "code": "C", "name": "Third", "note": "Two lines\\nof text.\\n", "sizes": {"low": 5} }
      ]
      """;

  private static final String CSV =
      """
      code,name,sizes,note
      A,"First","[1, 2]",
      B,Second,"[3,4]",

      "C",Third,"{""low"": 5}","Two lines
      of text.
      "
      """;

  private static final List<String> NAMES = List.of("code", "name", "sizes", "note");

  private Form form;

  private Seed seed() {
    String file = "seeds/grade" + form.ending();
    return new Seed(Place.of(file), form, "grade", file, List.of(), true, false, List.of());
  }

  private SeedRows rows() {
    return SeedFiles.rows(root, seed(), bytes -> {});
  }

  private List<SeedColumn> columns() {
    return rows().columns().stream()
        .map(name -> new SeedColumn(name, name.equals("sizes") ? Shape.NESTED : Shape.TEXT))
        .toList();
  }

  /** What is done with each row, by the value of its column {@code code}. */
  private String revised(
      String text, Map<String, Map<String, String>> changes, List<String> gone, String... added)
      throws IOException {
    form = text.startsWith("[") ? Form.JSON : text.startsWith("code") ? Form.CSV : Form.YAML;
    Files.createDirectories(root.resolve("seeds"));
    Files.writeString(root.resolve(seed().file()), text);
    List<SeedColumn> columns = columns();
    List<String> names = rows().columns();
    try (SeedOutput output = SeedOutput.begin(root, seed(), columns, false, false)) {
      rows()
          .<RuntimeException>each(
              row -> {
                String code = row.text(names.indexOf("code"));
                Map<Integer, Optional<String>> values = new LinkedHashMap<>();
                changes
                    .getOrDefault(code, Map.of())
                    .forEach((name, value) -> values.put(names.indexOf(name), of(value)));
                if (!gone.contains(code) && values.isEmpty()) {
                  output.keep(row.position());
                } else if (!gone.contains(code)) {
                  output.change(row.position(), values);
                }
              });
      if (added.length > 0) {
        output.add(names.stream().map(name -> of(added[NAMES.indexOf(name)])).toList());
      }
      output.complete();
      output.replace();
    }
    return Files.readString(root.resolve(seed().file()));
  }

  private static Optional<String> of(String value) {
    return value.equals("NULL") ? Optional.empty() : Optional.of(value);
  }

  private List<String> read() {
    SeedRows rows = rows();
    List<String> read = new ArrayList<>();
    rows.<RuntimeException>each(
        row -> {
          List<String> values = new ArrayList<>();
          for (String name : NAMES) {
            int column = rows.columns().indexOf(name);
            boolean none = column < 0 || row.isNull(column);
            String value = none ? "NULL" : row.text(column);
            values.add(JsonText.isListOrMap(value) ? JsonText.compact(value).get() : value);
          }
          read.add(String.join("|", values));
        });
    return read;
  }

  private static final String A = "A|First|[1,2]|NULL";
  private static final String B = "B|Second|[3,4]|NULL";
  private static final String C = "C|Third|{\"low\":5}|Two lines\nof text.\n";

  @ParameterizedTest
  @ValueSource(strings = {BLOCK, FLOW, JSON, CSV})
  void everyChangeIsReadBackAndNothingElseMoves(String text) throws IOException {
    assertThat(revised(text, Map.of(), List.of())).isEqualTo(text);
    assertThat(read()).containsExactly(A, B, C);
    revised(text, Map.of("A", Map.of("name", "Yes, no: {1}")), List.of());
    assertThat(read()).containsExactly(A.replace("First", "Yes, no: {1}"), B, C);
    revised(text, Map.of("B", Map.of("name", "123")), List.of("A"));
    assertThat(read()).containsExactly("B|123|[3,4]|NULL", C);
    revised(text, Map.of("B", Map.of("sizes", "{\"a\": [true, \"x: y\", 1.50]}")), List.of("C"));
    assertThat(read()).containsExactly(A, "B|Second|{\"a\":[true,\"x: y\",1.50]}|NULL");
    revised(text, Map.of("B", Map.of("note", "two\nlines")), List.of());
    assertThat(read()).containsExactly(A, B.replace("NULL", "two\nlines"), C);
    revised(text, Map.of("C", Map.of("note", "NULL", "sizes", "NULL")), List.of("B"));
    assertThat(read()).containsExactly(A, "C|Third|NULL|NULL");
    revised(text, Map.of(), List.of("B"), "D", "no", "[]", "NULL");
    assertThat(read()).containsExactly(A, C, "D|no|[]|NULL");
    revised(text, Map.of(), List.of("A", "B", "C"), "D", "null", "NULL", "# not a note");
    assertThat(read()).containsExactly("D|null|NULL|# not a note");
    revised(text, Map.of(), List.of("A", "B", "C"));
    assertThat(read()).isEmpty();
  }

  @Test
  void yamlKeepsCommentsAndQuotes() throws IOException {
    String changed =
        revised(
            BLOCK, Map.of("B", Map.of("name", "Next")), List.of("A"), "D", "Fourth", "[9]", "x");
    assertThat(changed)
        .isEqualTo(
            """
            # The grades that the packing house knows.

            - code: B
              name: 'Next'   # as it was
              sizes:
                - 3
                - 4

            - code: C
              name: Third
              note: |
                Two lines
                of text.
              sizes: {low: 5}

            - code: D
              name: Fourth
              sizes: [9]
              note: x
            # The end.
            """);
    assertThat(revised(FLOW, Map.of("C", Map.of("sizes", "[0]")), List.of("A")))
        .isEqualTo(
            """
            - {code: B, name: 'Second', sizes: [3, 4]}  # as it was
            - {code: C, name: Third, note: "Two lines\\nof text.\\n", sizes: [0]}
            """);
  }

  @Test
  void jsonKeepsItsLayout() throws IOException {
    assertThat(
            revised(JSON, Map.of("B", Map.of("note", "x")), List.of("A"), "D", "E", "[1]", "NULL"))
        .isEqualTo(
            """
            [
              { "code": "B",
                "name": "Second", "sizes": [3,4], "note": "x" },

              { "code": "C", "name": "Third", "note": "Two lines\\nof text.\\n", "sizes": {"low": 5} },

              { "code": "D", "name": "E", "sizes": [1], "note": null }
            ]
            """);
  }

  @Test
  void csvKeepsQuotesAndLineEnds() throws IOException {
    String text = "code,name\r\n\"A\",\"First\"\r\nB,Second\r\nC,x";
    assertThat(revised(text, Map.of("B", Map.of("name", "1,2")), List.of()))
        .isEqualTo("code,name\r\n\"A\",\"First\"\r\nB,\"1,2\"\r\nC,x");
    assertThat(revised(text, Map.of(), List.of("A"), "D", "y", "", ""))
        .isEqualTo("code,name\r\nB,Second\r\nC,x\r\nD,y\r\n");
  }

  @Test
  void whatAnAliasSharesIsWrittenOrRefusedNeverChangedInAnotherRow() throws IOException {
    String text = "- code: A\n  name: &n First\n- code: B\n  name: *n\n";
    assertThat(revised(text, Map.of("B", Map.of("name", "Other")), List.of()))
        .isEqualTo("- code: A\n  name: &n First\n- code: B\n  name: Other\n");
    assertThatThrownBy(() -> revised(text, Map.of("A", Map.of("name", "Other")), List.of()))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("layout");
    assertThat(Files.readString(root.resolve("seeds/grade.yaml"))).isEqualTo(text);
    assertThat(root.resolve("seeds/grade.yaml.part")).doesNotExist();
  }
}
