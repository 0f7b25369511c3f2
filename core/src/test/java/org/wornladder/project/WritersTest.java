package org.wornladder.project;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.project.SchemaWriter.Declared;

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
    String file =
        SeedWriter.csv(
            root,
            "grade",
            List.of("code", "a \"b\""),
            List.of(
                Arrays.asList(Optional.of("x,y"), Optional.empty()),
                Arrays.asList(Optional.of(""), Optional.of("two\nlines"))));
    assertThat(Files.readString(root.resolve(file)))
        .isEqualTo("code,\"a \"\"b\"\"\"\n\"x,y\",\n\"\",\"two\nlines\"\n");
  }

  @Test
  void whatWouldBeAValueOrADirectiveStaysWhatItIs() {
    List<String> lines = RungDraft.lines(List.of("SELECT '@{season}'\n--| up\nAS x"));
    assertThat(lines).containsExactly("SELECT '@@{season}'\n --| up\nAS x;\n");
  }
}
