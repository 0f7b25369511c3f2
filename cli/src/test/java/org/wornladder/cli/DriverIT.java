package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.jar.JarEntry;
import java.util.jar.JarOutputStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Engines whose driver lies in drivers/. */
class DriverIT {
  private static final Path DRIVERS = Workspace.DISTRIBUTION.resolveSibling("drivers");

  @TempDir Path folder;
  private Workspace work;

  @BeforeEach
  void project() throws IOException {
    work =
        new Workspace(folder)
            .file(
                "ladder.yaml",
                "name: hollowfield\nenvironments:\n  dev: { url: 'jdbc:derby:dev;create=true' }\n")
            .rung("0001-bins", "CREATE TABLE bin (id integer PRIMARY KEY);", "DROP TABLE bin;");
    Files.createDirectories(folder.resolve("drivers"));
  }

  private void copy(String prefix) throws IOException {
    try (Stream<Path> jars = Files.list(DRIVERS)) {
      for (Path jar :
          jars.filter(one -> one.getFileName().toString().startsWith(prefix)).toList()) {
        Files.copy(
            jar,
            folder.resolve("drivers").resolve(jar.getFileName()),
            StandardCopyOption.REPLACE_EXISTING);
      }
    }
  }

  @Test
  void aProjectOnAnEngineOfItsOwnDriver() throws IOException {
    copy("derby");
    work.ladder("check")
        .exits(0)
        .says("derby is served by its driver alone: views, routines and triggers");
    work.ladder("preview").exits(0).says("CREATE TABLE bin");
    work.ladder("apply").exits(0);
    work.ladder("status").exits(0).says("dev is at 0001");
    work.ladder("show").exits(0).says("BIN", "ID");
    work.ladder("drift").exits(0).says("dev is what its history says");
    work.rung(
        "0002-codes",
        "ALTER TABLE bin ADD COLUMN code varchar(9);",
        "ALTER TABLE bin DROP COLUMN code;");
    work.ladder("apply").exits(0);
    work.ladder("rollback", "--to", "0", "--yes").exits(0);
    work.ladder("history", "--format", "json").exits(0).says("\"rolled-back\"");
    work.ladder("draft", "from", "nothing").complains("ladder");
    work.ladder("rehearse").exits(4).complains("derby is served by its driver alone", "scratch:");
  }

  @Test
  void aDriverThatIsMissing() throws IOException {
    work.ladder("apply")
        .exits(4)
        .complains("no engine here knows this url, and no JDBC driver is there", "drivers");
    copy("hsqldb");
    work.ladder("apply").exits(4).complains("no driver in hsqldb", "does");
    // Half of a driver.
    copy("derby-");
    assertThat(work.ladder("apply").exits(4).err())
        .contains("needs org/apache/derby/shared", "another jar beside it");
  }

  @Test
  void twoDriversForOneUrl() throws IOException {
    copy("derby");
    try (Stream<Path> jars = Files.list(folder.resolve("drivers"))) {
      Path jar = jars.filter(one -> one.toString().contains("derby-")).findFirst().orElseThrow();
      Files.copy(jar, folder.resolve("drivers/derby-copy.jar"));
    }
    work.ladder("apply")
        .exits(4)
        .complains("two drivers take this url", "derby-copy.jar", "name its class by driver:");
  }

  @Test
  void aDriverOfANewerJavaAndNoneAtAll() throws IOException {
    byte[] newer = {(byte) 0xca, (byte) 0xfe, (byte) 0xba, (byte) 0xbe, 0, 0, 0, 99, 0, 1};
    try (JarOutputStream jar =
        new JarOutputStream(Files.newOutputStream(folder.resolve("drivers/newer.jar")))) {
      jar.putNextEntry(new JarEntry("META-INF/services/java.sql.Driver"));
      jar.write("orchard.Driver\n".getBytes(java.nio.charset.StandardCharsets.UTF_8));
      jar.putNextEntry(new JarEntry("orchard/Driver.class"));
      jar.write(newer);
    }
    work.ladder("apply").exits(4).complains("orchard.Driver is made for a newer Java");
    for (List<String> wrong :
        List.of(
            List.of("java.lang.String", "is no JDBC driver"),
            List.of("no.such.Driver", "there is no driver class no.such.Driver"))) {
      work.file(
          "ladder.yaml",
          "name: x\nenvironments:\n  dev: { url: 'jdbc:derby:dev', driver: "
              + wrong.get(0)
              + " }\n");
      work.ladder("apply").exits(4).complains(wrong.get(1), "driver:");
    }
  }

  @Test
  void settingsThatOtherEnginesDoNotHave() {
    work.file(
        "ladder.yaml",
        "name: x\nenvironments:\n  dev: { url: 'jdbc:sqlite:dev.db', driver: x.Y, table-options: z }\n");
    work.ladder("check")
        .says("driver has no effect on sqlite", "table-options has no effect on sqlite");
    assertThat(folder.resolve("dev.db")).doesNotExist();
  }
}
