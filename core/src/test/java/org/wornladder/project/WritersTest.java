package org.wornladder.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.ProjectException;
import org.wornladder.project.SchemaWriter.Declared;
import org.wornladder.project.Seed.Form;
import org.wornladder.sql.Place;

/** The files that a database is written to. */
class WritersTest {
  @TempDir Path root;

  @Test
  void aFilesNameIsSafeAndNoTwoNamesMeet() {
    assertThat(SchemaWriter.fileName("block")).isEqualTo("block");
    assertThat(SchemaWriter.fileName("näme_1-x")).isEqualTo("näme_1-x");
    List<String> odd =
        List.of("../../etc/passwd", "a/b", "a\\b", "a b", "a.b", "..", "", "🍎", "x".repeat(99));
    List<String> names = odd.stream().map(SchemaWriter::fileName).toList();
    assertThat(names).doesNotHaveDuplicates().allMatch(name -> name.matches("[\\p{L}\\p{N}_-]+"));
  }

  @Test
  void eachObjectHasAFileAndSeveralOfOneNameShareIt() throws Exception {
    List<String> files =
        SchemaWriter.write(
            root,
            List.of(
                new Declared("functions", "add", "CREATE FUNCTION add(a int);\n"),
                new Declared("functions", "add", "CREATE FUNCTION add(a text);\n"),
                new Declared("tables", "bin", "CREATE TABLE bin (id int);\n")));
    assertThat(files).containsExactly("schema/functions/add.sql", "schema/tables/bin.sql");
    assertThat(Files.readString(root.resolve(files.get(0))))
        .isEqualTo("CREATE FUNCTION add(a int);\n\nCREATE FUNCTION add(a text);\n");
    assertThat(SchemaFiles.read(root)).extracting(SchemaFiles.SchemaFile::name).isEqualTo(files);
  }

  @Test
  void rowsKeepTheDifferenceBetweenNothingAndAnEmptyText() throws Exception {
    List<List<Optional<String>>> rows =
        List.of(
            List.of(Optional.of("7"), Optional.of("x,y"), Optional.empty()),
            List.of(Optional.of("8"), Optional.of(""), Optional.of("two\nlines")));
    assertThat(written(Form.CSV, rows))
        .isEqualTo("id,code,\"a \"\"b\"\"\"\n7,\"x,y\",\n8,\"\",\"two\nlines\"\n");
    for (Form form : List.of(Form.CSV, Form.JSON, Form.YAML)) {
      written(form, rows);
      List<String> read = new ArrayList<>();
      SeedFiles.rows(root, seed(form), bytes -> {})
          .<RuntimeException>each(
              row -> read.add(row.text(0) + row.text(1) + (row.isNull(2) ? "-" : row.text(2))));
      assertThat(read).as(form.name()).containsExactly("7x,y-", "8two\nlines");
    }
  }

  private static Seed seed(Form form) {
    String file = "seeds/grade" + form.ending();
    return new Seed(Place.of(file), form, "grade", file, List.of(), true, false, List.of());
  }

  private String written(Form form, List<List<Optional<String>>> rows) throws IOException {
    List<SeedColumn> columns =
        List.of(
            new SeedColumn("id", SeedColumn.Shape.PLAIN),
            new SeedColumn("code", SeedColumn.Shape.TEXT),
            new SeedColumn("a \"b\"", SeedColumn.Shape.TEXT));
    try (SeedOutput output = SeedOutput.begin(root, seed(form), columns, true, false)) {
      rows.forEach(output::add);
      output.complete();
      output.replace();
    }
    return Files.readString(root.resolve(seed(form).file()));
  }

  @Test
  void whatWouldBeAValueOrADirectiveStaysWhatItIs() {
    List<String> lines = RungDraft.lines(List.of("SELECT '@{season}'\n--| up\nAS x"));
    assertThat(lines).containsExactly("SELECT '@@{season}'\n --| up\nAS x;\n");
  }

  @Test
  void aRungThatCouldNotBeReadBackIsRefused() {
    List<String> most = List.of("x".repeat(TextFiles.LARGEST - 100));
    new RungDraft(most, List.of(), Optional.of("a test"))
        .refuseTooLarge(org.wornladder.Advice.hint("take less"));
    RungDraft more = new RungDraft(most, List.of("y".repeat(100)), Optional.empty());
    assertThatThrownBy(() -> more.refuseTooLarge(org.wornladder.Advice.hint("take less")))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("a rung of 64 MB; it can be at most 64 MB");
  }
}
