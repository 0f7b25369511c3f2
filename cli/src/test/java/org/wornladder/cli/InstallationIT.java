package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.zip.ZipFile;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;

/** The program as it is installed. */
@Isolated
class InstallationIT {
  @TempDir Path folder;

  @Test
  void theArchiveToHandOnHoldsEverything() throws IOException {
    Path zip = Path.of(Workspace.DISTRIBUTION + ".zip");
    try (ZipFile file = new ZipFile(zip.toFile())) {
      assertThat(file.stream().map(entry -> entry.getName()))
          .contains(
              "bin/ladder",
              "bin/ladder-archive",
              "bin/ladder.cmd",
              "completion/ladder.bash",
              "completion/ladder.zsh",
              "man/man1/ladder.1",
              "man/man1/ladder-apply.1",
              "man/man1/ladder-rollback.1",
              "lib/native/Linux/x86_64/libsqlitejdbc.so")
          .noneMatch(name -> name.contains("classes-") || name.contains("picocli-codegen"));
    }
  }

  @Test
  void itWorksFromAPathWithBlanksThroughALinkAndReadOnly() throws Exception {
    Path home = folder.resolve("an odd place/worn ladder");
    Files.createDirectories(home.getParent());
    Workspace work =
        Workspace.hollowfield(Files.createDirectory(folder.resolve("my project"))).tables(1);
    work.run(List.of("cp", "-r", Workspace.DISTRIBUTION.toString(), home.toString())).exits(0);
    work.run(List.of("chmod", "-R", "a-w", home.toString())).exits(0);
    Path link = Files.createSymbolicLink(folder.resolve("ladder link"), home.resolve("bin/ladder"));
    Path second = Files.createSymbolicLink(folder.resolve("second"), Path.of("ladder link"));
    work.program(second).ladder("apply").exits(0).says("dev is at 0001");
    work.program(link).ladder("status").exits(0).says("in place");
    work.run(List.of("chmod", "-R", "u+w", home.toString())).exits(0);
  }

  @Test
  void withoutAnArchiveOrWithABrokenOneItWorksAndSaysNothing() throws IOException {
    Path home = folder.resolve("home");
    Workspace work =
        Workspace.hollowfield(Files.createDirectory(folder.resolve("project"))).tables(1);
    work.run(List.of("cp", "-r", Workspace.DISTRIBUTION.toString(), home.toString())).exits(0);
    Path archive;
    try (var files = Files.list(home.resolve("lib"))) {
      archive =
          files
              .filter(file -> file.getFileName().toString().startsWith("classes-"))
              .findFirst()
              .orElseThrow();
    }
    work.variable("XDG_CACHE_HOME", folder.resolve("cache").toString())
        .program(home.resolve("bin/ladder"));
    assertThat(work.ladder("--version").exits(0).err()).isEmpty();
    Files.writeString(archive, "this is no archive");
    assertThat(work.ladder("status").exits(0).err()).isEmpty();
    Files.writeString(archive, "");
    assertThat(work.ladder("status").exits(0).err()).isEmpty();
    Files.delete(archive);
    assertThat(work.ladder("status").exits(0).err()).isEmpty();
    work.run(List.of(home.resolve("bin/ladder-archive").toString())).exits(0).says("Wrote");
    assertThat(archive).exists();
  }

  @Test
  void everyLibraryIsTheReleasedOneByteForByte() throws Exception {
    Map<String, String> resolved = new TreeMap<>();
    String classpath = Files.readString(Path.of(System.getProperty("ladder.resolvedJars")));
    for (String jar : classpath.strip().split(":")) {
      Path file = Path.of(jar);
      resolved.put(file.getFileName().toString(), sha256(file));
    }
    Map<String, String> distributed = new TreeMap<>();
    try (var files = Files.list(Workspace.DISTRIBUTION.resolve("lib"))) {
      for (Path file : files.filter(one -> one.toString().endsWith(".jar")).toList()) {
        distributed.put(file.getFileName().toString(), sha256(file));
      }
    }
    assertThat(distributed.keySet()).anyMatch(name -> name.startsWith("worn-ladder-cli"));
    distributed.keySet().removeIf(name -> name.startsWith("worn-ladder-cli"));
    assertThat(distributed).hasSizeGreaterThan(10).isEqualTo(resolved);
  }

  private static String sha256(Path file) throws Exception {
    byte[] digest = MessageDigest.getInstance("SHA-256").digest(Files.readAllBytes(file));
    return HexFormat.of().formatHex(digest);
  }

  /** Every user can run what one user has unpacked. */
  @Test
  void theZipUnpacksForEveryUser() throws Exception {
    Path home = Files.createDirectory(folder.resolve("installed"));
    Workspace work = new Workspace(folder);
    work.run(List.of("chmod", "755", folder.toString())).exits(0);
    work.run(List.of("unzip", "-q", Workspace.DISTRIBUTION + ".zip", "-d", home.toString()))
        .exits(0);
    try (var files = Files.walk(home)) {
      for (Path file : files.toList()) {
        Set<PosixFilePermission> modes = Files.getPosixFilePermissions(file);
        assertThat(modes).as(file.toString()).contains(PosixFilePermission.OTHERS_READ);
        if (Files.isDirectory(file) || file.getParent().endsWith("bin")) {
          assertThat(modes).as(file.toString()).contains(PosixFilePermission.OTHERS_EXECUTE);
        }
      }
    }
    assumeTrue(System.getProperty("user.name").equals("root"), "only root can be another user");
    work.run(
            List.of(
                "setpriv",
                "--reuid=65534",
                "--regid=65534",
                "--clear-groups",
                home.resolve("bin/ladder").toString(),
                "--help"))
        .exits(0)
        .says("status");
  }

  @Test
  void theArchiveIsWrittenAndUsedWithBlanksInThePath() throws Exception {
    Path home = folder.resolve("an odd place/worn ladder");
    Files.createDirectories(home.getParent());
    Workspace work = new Workspace(folder);
    work.run(List.of("cp", "-r", Workspace.DISTRIBUTION.toString(), home.toString())).exits(0);
    work.run(List.of("sh", "-c", "rm -f '" + home + "'/lib/classes-*")).exits(0);
    work.run(List.of(home.resolve("bin/ladder-archive").toString())).exits(0).says("Wrote");
    // With these the JVM refuses to start where it cannot use the archive.
    boolean cache = Runtime.version().feature() >= 25;
    work.variable("JDK_JAVA_OPTIONS", cache ? "-XX:AOTMode=on" : "-Xshare:on")
        .program(home.resolve("bin/ladder"));
    work.ladder("--help").exits(0);
  }

  @Test
  void manualPagesAndCompletionNameEveryCommand() throws IOException {
    String help = new Workspace(folder).ladder("--help").exits(0).out();
    String bash = Files.readString(Workspace.DISTRIBUTION.resolve("completion/ladder.bash"));
    for (String command :
        List.of(
            "init",
            "new",
            "check",
            "preview",
            "apply",
            "rollback",
            "status",
            "history",
            "show",
            "settle",
            "demo")) {
      assertThat(help).contains("  " + command + " ");
      assertThat(bash).contains("_picocli_ladder_" + command + "()");
      Path page = Workspace.DISTRIBUTION.resolve("man/man1/ladder-" + command + ".1");
      assertThat(Files.readString(page)).contains(".SH \"NAME\"", ".SH \"OPTIONS\"");
    }
  }

  @Test
  void aCollectorThatTheUserChoseStays() {
    Workspace work = new Workspace(folder);
    work.run(
            List.of(
                "env",
                "JAVA_TOOL_OPTIONS=-XX:+UseParallelGC",
                Workspace.DISTRIBUTION.resolve("bin/ladder").toString(),
                "--help"))
        .exits(0);
  }
}
