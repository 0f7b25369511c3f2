package org.wornladder.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.ProjectException;
import org.wornladder.project.Seed.Form;

/** What the settings say of seeds. */
class SeedSettingsTest {
  private static final String START =
      "name: hollowfield\nenvironments:\n  dev: { url: \"jdbc:sqlite:dev.db\" }\nseeds:\n  - ";

  @TempDir Path root;

  private ProjectTestFolder with(String seed) {
    return new ProjectTestFolder(root).file("ladder.yaml", START + seed + "\n");
  }

  private Seed read(String seed) {
    return with(seed).read().settings().seeds().get(0);
  }

  @Test
  void whatIsNotSaidIsSettled() {
    Seed seed = read("table: grade");
    assertThat(seed.file()).isEqualTo("seeds/grade.csv");
    assertThat(seed.form()).isEqualTo(Form.CSV);
    assertThat(seed.update()).isTrue();
    assertThat(seed.delete()).isFalse();
    assertThat(seed.key()).isEmpty();
    assertThat(seed.isFor("dev")).isTrue();
    assertThat(seed.label()).isEqualTo("grade");
  }

  @Test
  void everythingCanBeSaid() {
    Seed seed =
        read(
            "{ table: grade, rows: seeds/g.json, key: [code, season], existing: leave,"
                + " extra: delete, only-in: [dev] }");
    assertThat(seed.form()).isEqualTo(Form.JSON);
    assertThat(seed.key()).containsExactly("code", "season");
    assertThat(seed.update()).isFalse();
    assertThat(seed.delete()).isTrue();
    assertThat(seed.isFor("live")).isFalse();
    assertThat(read("sql: seeds/season.sql").label()).isEqualTo("seeds/season.sql");
    assertThat(read("{ table: bin, rows: seeds/bin.sample.yaml }").form()).isEqualTo(Form.SAMPLE);
    assertThat(read("{ table: bin, rows: seeds/bin.yml }").form()).isEqualTo(Form.YAML);
  }

  @Test
  void theFileOfATablesNameIsFound() {
    ProjectTestFolder folder = with("table: grade").file("seeds/grade.yaml", "- { code: A }\n");
    assertThat(folder.read().settings().seeds().get(0).form()).isEqualTo(Form.YAML);
    folder.file("seeds/grade.json", "[]");
    assertThatThrownBy(folder::read)
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("grade has several files");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          grade|ladder.yaml:5:5|a seed must be a map with table: or sql:
          { rows: seeds/x.csv }|ladder.yaml:5:5|a seed names no table
          { table: grade, rows: seeds/x.txt }|ladder.yaml:5:27|rows cannot stand in seeds/x.txt
          { table: grade, extra: drop }|ladder.yaml:5:28|extra cannot be 'drop'
          { table: grade, existing: updat }|ladder.yaml:5:31|existing cannot be 'updat'
          { table: grade, keys: [code] }|ladder.yaml:5:21|unknown key 'keys'
          { sql: seeds/x.sql, table: grade }|ladder.yaml:5:25|unknown key 'table'
          { table: grade, only-in: [life] }|ladder.yaml:5:5|only-in names 'life'
          """)
  void mistakesAreToldWithTheirPlace(String seed, String place, String words) {
    assertThatThrownBy(() -> read(seed))
        .isInstanceOfSatisfying(
            ProjectException.class,
            e -> {
              assertThat(e.what()).contains(words);
              assertThat(e.where().orElseThrow()).isEqualTo(place);
            });
  }
}
