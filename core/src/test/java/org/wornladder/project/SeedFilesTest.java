package org.wornladder.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.wornladder.ProjectException;
import org.wornladder.project.Seed.Form;
import org.wornladder.sql.Place;

/** Seeds as files: what they hold, and what is wrong with them and where. */
class SeedFilesTest {
  @TempDir Path root;

  private Seed seed(Form form, byte... text) throws IOException {
    String file = "seeds/grade" + form.ending();
    Files.createDirectories(root.resolve("seeds"));
    Files.write(root.resolve(file), text);
    return new Seed(Place.of(file), form, "grade", file, List.of(), true, false, List.of());
  }

  private List<String> read(Form form, String text) throws IOException {
    List<String> rows = new ArrayList<>();
    SeedRows seed =
        SeedFiles.rows(root, seed(form, text.getBytes(StandardCharsets.UTF_8)), bytes -> {});
    rows.add(String.join("|", seed.columns()));
    seed.<RuntimeException>each(
        row -> {
          List<String> values = new ArrayList<>();
          for (int i = 0; i < row.size(); i++) {
            values.add(row.isNull(i) ? "NULL" : row.text(i));
          }
          rows.add(seed.place(row.position()).line() + " " + String.join("|", values));
        });
    return rows;
  }

  @Test
  void csvTellsNothingFromAnEmptyText() throws IOException {
    assertThat(
            read(
                Form.CSV,
                "\uFEFFcode,name\r\nA,\r\nB,\"\"\r\n\r\nC,\"two\nlines, \"\"x\"\"\"\nD,=1+1"))
        .containsExactly("code|name", "2 A|NULL", "3 B|", "5 C|two\nlines, \"x\"", "7 D|=1+1");
  }

  @Test
  void jsonAndYamlKeepNumbersAsTheyAreWritten() throws IOException {
    assertThat(
            read(
                Form.JSON,
                "[{\"a\": 1.50, \"b\": true},\n {\"b\": null, \"c\": {\"x\": [1, \"2\"]}}]"))
        .containsExactly("a|b|c", "1 1.50|true|NULL", "2 NULL|NULL|{\"x\":[1,\"2\"]}");
    assertThat(read(Form.YAML, "- { a: 1.50, b: ~ }\n- a: '1'\n  c: [1, '2', {k: true}]\n"))
        .containsExactly("a|b|c", "1 1.50|NULL|NULL", "2 1|NULL|[1,\"2\",{\"k\":true}]");
  }

  static Stream<Arguments> wrong() {
    return Stream.of(
        Arguments.of(Form.CSV, "", "seeds/grade.csv", "the file is empty"),
        Arguments.of(Form.CSV, "code,code\n", "seeds/grade.csv:1", "column code occurs twice"),
        Arguments.of(Form.CSV, "code,\nA,B\n", "seeds/grade.csv:1", "column 2 has no name"),
        Arguments.of(Form.CSV, "a,b\n1,2\n1,2,3\n", "seeds/grade.csv:3", "this line has 3 fields"),
        Arguments.of(Form.CSV, "a,b\n1,2\n1\n", "seeds/grade.csv:3", "this line has 1 field,"),
        Arguments.of(Form.CSV, "a,b\n1,2\n1,\"x\n", "seeds/grade.csv:", "is never closed"),
        Arguments.of(Form.CSV, "a,b\n1,\"x\"y\n", "seeds/grade.csv:2", "this is not CSV"),
        Arguments.of(Form.JSON, "{\"a\": 1}", "seeds/grade.json", "must be an array of objects"),
        Arguments.of(
            Form.JSON, "[{\"a\": 1},\n 7]", "seeds/grade.json:2", "a row must be an object"),
        Arguments.of(Form.JSON, "[{\"a\": 1},\n {\"a\": }]", "seeds/grade.json:2:8", "not JSON"),
        Arguments.of(Form.JSON, "[{\"a\": 1, \"a\": 2}]", "seeds/grade.json:1", "uplicate"),
        Arguments.of(Form.YAML, "a: 1\n", "seeds/grade.yaml:1:1", "must be a list of maps"),
        Arguments.of(Form.YAML, "- 7\n", "seeds/grade.yaml:1:3", "a row must be a map"),
        Arguments.of(Form.YAML, "- {a: 1, a: 2}\n", "seeds/grade.yaml:1:10", "a is written twice"));
  }

  @ParameterizedTest
  @MethodSource("wrong")
  void whatIsWrongIsToldWithItsPlace(Form form, String text, String place, String words) {
    assertThatThrownBy(() -> read(form, text))
        .isInstanceOfSatisfying(
            ProjectException.class,
            e -> {
              assertThat(e.what()).contains(words);
              assertThat(e.where().orElseThrow()).startsWith(place);
            });
  }

  @Test
  void aByteThatIsNotUtf8IsFoundFarInTheFile() throws IOException {
    byte[] text = "a,b\n1,x\n".repeat(1).concat("2,y\n".repeat(70_000)).getBytes();
    text[text.length - 2] = (byte) 0xE4;
    Seed seed = seed(Form.CSV, text);
    assertThatThrownBy(() -> SeedFiles.examine(root, seed, name -> false))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("not UTF-8")
        .extracting(e -> ((ProjectException) e).where().orElseThrow())
        .isEqualTo("seeds/grade.csv:70002");
  }

  @Test
  void aFieldThatNoMemoryHoldsIsRefused() throws IOException {
    byte[] text = new byte[20 << 20];
    java.util.Arrays.fill(text, (byte) 'x');
    System.arraycopy("a,b\n1,2\n3,\"".getBytes(), 0, text, 0, 11);
    Seed seed = seed(Form.CSV, text);
    assertThatThrownBy(() -> SeedFiles.examine(root, seed, name -> false))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("longer than 16 million characters");
  }

  @Test
  void aFileOutsideOfTheProjectIsNotRead() throws IOException {
    Path outside = Files.createTempFile("outside", ".csv");
    Files.createDirectories(root.resolve("seeds"));
    Files.createSymbolicLink(root.resolve("seeds/grade.csv"), outside);
    Seed seed =
        new Seed(
            Place.of("x"), Form.CSV, "grade", "seeds/grade.csv", List.of(), true, false, List.of());
    assertThatThrownBy(() -> SeedFiles.examine(root, seed, name -> false))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("leads out of the project");
    Files.delete(outside);
  }

  private static RowHasher.Digest digest(RowHasher hasher, String key, String number) {
    hasher.start();
    if (key == null) {
      hasher.addNull(0);
    } else {
      hasher.add(0, key);
    }
    hasher.add(1, number);
    return hasher.digest();
  }

  @Test
  void equalRowsHaveEqualDigestsAndOthersHaveNot() {
    RowHasher.Field decimal = new RowHasher.Field(true, true, java.util.Optional.empty());
    RowHasher.Field key = new RowHasher.Field(true, false, java.util.Optional.empty());
    RowHasher.Field ignored = new RowHasher.Field(false, true, java.util.Optional.empty());
    RowHasher hasher = new RowHasher(List.of(key, decimal));
    for (String text : List.of("", "käse", "\uD83C\uDF4E", "plain")) {
      for (String number : List.of("1.50", "0", "100", "7.000", "-3.10")) {
        String other = number.contains(".") ? number + "00" : number;
        assertThat(digest(hasher, text, other)).isEqualTo(digest(hasher, text, number));
        assertThat(digest(hasher, text, number + "1")).isNotEqualTo(digest(hasher, text, number));
      }
    }
    assertThat(digest(hasher, null, "1")).isNotEqualTo(digest(hasher, "", "1"));
    assertThat(digest(hasher, "a", "1")).isNotEqualTo(digest(hasher, "a", "2"));
    RowHasher keys = new RowHasher(List.of(key, ignored));
    assertThat(digest(keys, "a", "1")).isEqualTo(digest(keys, "a", "2"));
  }
}
