package org.wornladder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.OutputStream;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.jar.JarEntry;
import java.util.jar.JarOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.server.SqlDataSource;

/** Projects that are packed with a program, whose connections they use. */
class ClassPathProjectTest {
  private static final Map<String, String> FILES =
      Map.of(
          "db/ladder.yaml",
          "name: hollowfield\nenvironments:\n  app: { url: '${NEVER_SET}', user: '${NEVER_SET}' }\n",
          "db/rungs/0001-bins.sql",
          "--| up\nCREATE TABLE bin (id integer);\n--| down\nDROP TABLE bin;\n",
          "db/standing/seen.sql",
          "--| up\nCREATE VIEW seen AS SELECT id FROM bin;\n--| down\nDROP VIEW seen;\n");

  @TempDir Path folder;

  private URL packed(boolean inJar) throws IOException {
    if (!inJar) {
      for (Map.Entry<String, String> file : FILES.entrySet()) {
        Path path = folder.resolve("classes").resolve(file.getKey());
        Files.createDirectories(path.getParent());
        Files.writeString(path, file.getValue());
      }
      return folder.resolve("classes/").toUri().toURL();
    }
    Path jar = folder.resolve("a program.jar");
    try (OutputStream out = Files.newOutputStream(jar);
        JarOutputStream entries = new JarOutputStream(out)) {
      for (Map.Entry<String, String> file : FILES.entrySet()) {
        entries.putNextEntry(new JarEntry(file.getKey()));
        entries.write(file.getValue().getBytes(StandardCharsets.UTF_8));
      }
    }
    return jar.toUri().toURL();
  }

  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void isAppliedOnTheProgramsOwnConnections(boolean inJar) throws IOException {
    SqlDataSource source = new SqlDataSource("jdbc:sqlite:" + folder.resolve("app.db"));
    try (URLClassLoader loader = new URLClassLoader(new URL[] {packed(inJar)}, null)) {
      Path copy;
      try (Ladder ladder =
              Ladder.builder().projectOnClassPath("db", loader).environment(source).build();
          Ladder second =
              Ladder.builder()
                  .projectOnClassPath("db", loader)
                  .environment("app", source)
                  .build()) {
        assertThat(ladder.apply(Optional.empty(), ApplyOptions.ALL).done()).hasSize(2);
        assertThat(second.apply(Optional.of("app"), ApplyOptions.ALL).done()).isEmpty();
        assertThat(ladder.status(Optional.empty()).engine()).isEqualTo("sqlite");
        copy = ladder.project().root();
        assertThat(copy.resolve("rungs/0001-bins.sql")).exists();
      }
      assertThat(copy).doesNotExist();
      assertThatThrownBy(() -> Ladder.builder().projectOnClassPath("elsewhere", loader))
          .isInstanceOf(ProjectException.class)
          .hasMessage("there is no such file on the class path");
    }
    assertThat(List.of(folder.toFile().list())).contains("app.db");
  }

  @Test
  void twoOfOneNameAreRefusedWithBothPlaces() throws IOException {
    URL[] places = {packed(true), packed(false)};
    try (URLClassLoader loader = new URLClassLoader(places, null)) {
      assertThatThrownBy(() -> Ladder.builder().projectOnClassPath("db", loader))
          .isInstanceOf(ProjectException.class)
          .hasMessageContaining("more than once")
          .hasMessageContaining("a%20program.jar")
          .hasMessageContaining("classes/db");
    }
  }

  @Test
  void aFolderAndOneOnTheClassPathAreNoProject() throws IOException {
    try (URLClassLoader loader = new URLClassLoader(new URL[] {packed(true)}, null)) {
      Ladder.Builder builder = Ladder.builder().project(folder);
      assertThatThrownBy(() -> builder.projectOnClassPath("db", loader))
          .isInstanceOf(IllegalStateException.class)
          .hasMessageContaining("set already");
    }
  }
}
