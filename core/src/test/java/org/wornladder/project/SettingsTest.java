package org.wornladder.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.ProjectException;

class SettingsTest {
  @TempDir Path root;

  @Test
  void everythingThatTheDesignNamesIsRead() {
    Settings settings =
        new ProjectTestFolder(root)
            .file(
                "ladder.yaml",
                """
                name: hollowfield
                default: test
                numbering: timestamp
                environments:
                  dev: { url: "jdbc:sqlite:data/dev.db", disposable: true, foreign-keys: off }
                  test: { url: jdbc:sqlite:data/test.db, late: allow, lock-timeout: 5s }
                  live:
                    url: ${URL}
                    user: ${USER_NAME}
                    password: ${PASSWORD}
                    role: hollowfield_owner
                    schemas: [public]
                    guarded: true
                    promoted-from: test
                    statement-timeout: 2m
                    values: { sample_rows: "no" }
                values: { season: "2026" }
                ignore: ["table:legacy_*"]
                journal: { table: record }
                seeds:
                  - { table: grade, key: [code], existing: update, extra: delete }
                  - { table: bin, rows: seeds/bin.sample.yaml, only-in: [dev, test] }
                """)
            .read()
            .settings();
    assertThat(settings.defaultEnvironment()).isEqualTo("test");
    assertThat(settings.numbering()).isEqualTo(Settings.Numbering.TIMESTAMP);
    assertThat(settings.journalTable()).isEqualTo("record");
    assertThat(settings.environmentNames()).containsExactly("dev", "test", "live");
    assertThat(settings.environments().get("dev").foreignKeys()).isFalse();
    assertThat(settings.environments().get("test").lateAllowed()).isTrue();
    assertThat(settings.environments().get("test").lockTimeout().orElseThrow().toSeconds())
        .isEqualTo(5);
    assertThat(settings.environments().get("live").guarded()).isTrue();
    assertThat(settings.environments().get("live").promotedFrom()).contains("test");
  }

  @Test
  void everythingWrongIsToldAtOnceWithItsPlaceAndTheNearestWord() {
    assertThat(
            new ProjectTestFolder(root)
                .file(
                    "ladder.yaml",
                    """
                    name: hollowfield
                    defautl: dev
                    numbering: sequense
                    environments:
                      dev:
                        url: jdbc:sqlite:data/dev.db
                        guarded: yess
                        lock-timeout: soon
                        promoted-from: tets
                      test:
                        disposable: true
                      "odd name": {url: x}
                    seeds: grade
                    """)
                .problems())
        .containsExactlyInAnyOrder(
            "ladder.yaml:2:1 unknown key 'defautl' / did you mean default?",
            "ladder.yaml:3:12 numbering cannot be 'sequense' / did you mean sequence?",
            "ladder.yaml:7:14 guarded cannot be 'yess' / it can be one of: true, false",
            "ladder.yaml:8:19 lock-timeout cannot be 'soon' / write a time such as 500ms, 5s or 2m",
            "ladder.yaml:11:5 test has no url / write url: jdbc:sqlite:data/test.db",
            "ladder.yaml:12:3 'odd name' cannot name an environment / use letters, digits, - and _",
            "ladder.yaml:13:8 seeds is a single value; it must be a list / ",
            "ladder.yaml:6:10 promoted-from names 'tets', which is not an environment / did you mean"
                + " test?");
  }

  @Test
  void malformedYamlIsToldWithItsPlace() {
    assertThat(new ProjectTestFolder(root).file("ladder.yaml", "name: [a\nb: c: d\n").problems())
        .hasSize(1)
        .first()
        .asString()
        .startsWith("ladder.yaml:2:")
        .contains("this is not YAML");
  }

  @Test
  void aKeyThatStandsTwiceIsTold() {
    assertThat(
            new ProjectTestFolder(root)
                .file("ladder.yaml", ProjectTestFolder.SETTINGS + "name: other\n")
                .problems())
        .anyMatch(problem -> problem.contains("name is written twice; first on line 1"));
  }

  @Test
  void aVariableComesFromTheProcessThenItsFileThenDotEnv() {
    ProjectTestFolder folder =
        new ProjectTestFolder(root)
            .file(".env", "# secrets\nLIVE_URL=from-dot-env\nexport OTHER='a # b'\n")
            .file("secret", "from-file\n");
    Project project = folder.read();
    assertThat(live(project, Map.of("LIVE_URL", "from-process", "LIVE_URL_FILE", "secret")).url())
        .isEqualTo("from-process");
    assertThat(live(project, Map.of("LIVE_URL_FILE", "secret")).url()).isEqualTo("from-file");
    assertThat(live(project, Map.of()).url()).isEqualTo("from-dot-env");
  }

  @Test
  void aMissingVariableIsToldOnlyWhereItIsUsed() {
    Project project = new ProjectTestFolder(root).read();
    EnvironmentReader reader =
        new EnvironmentReader(root, project.settings(), name -> Optional.empty());
    assertThat(reader.read(Optional.empty()).name()).isEqualTo("dev");
    assertThatThrownBy(() -> reader.read(Optional.of("live")))
        .isInstanceOf(ProjectException.class)
        .hasMessage("the variable LIVE_URL is not set; live needs it");
    assertThatThrownBy(() -> reader.read(Optional.of("liv")))
        .hasMessage("there is no environment 'liv'")
        .extracting(e -> ((ProjectException) e).advice().facts().get(0))
        .isEqualTo("did you mean live?");
  }

  private Environment live(Project project, Map<String, String> process) {
    return new EnvironmentReader(
            root, project.settings(), name -> Optional.ofNullable(process.get(name)))
        .read(Optional.of("live"));
  }
}
