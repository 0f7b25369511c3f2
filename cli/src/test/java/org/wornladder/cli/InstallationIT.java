package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.ZipFile;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The program as it is installed. */
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
              "completion/ladder.bash",
              "completion/ladder.zsh",
              "man/man1/ladder.1",
              "man/man1/ladder-apply.1",
              "man/man1/ladder-rollback.1",
              "lib/native/Linux/x86_64/libsqlitejdbc.so")
          .noneMatch(name -> name.endsWith(".jsa") || name.contains("picocli-codegen"));
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
      archive = files.filter(file -> file.toString().endsWith(".jsa")).findFirst().orElseThrow();
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

  /** They are written anew when the program is built. */
  @Test
  void everyClassOfEveryJarIsSound() throws IOException {
    List<Path> jars;
    try (var files = Files.list(Workspace.DISTRIBUTION.resolve("lib"))) {
      jars = files.filter(file -> file.toString().endsWith(".jar")).toList();
    }
    List<URL> urls = new ArrayList<>();
    List<String> names = new ArrayList<>();
    for (Path jar : jars) {
      urls.add(jar.toUri().toURL());
      try (ZipFile file = new ZipFile(jar.toFile())) {
        file.stream()
            .map(entry -> entry.getName())
            .filter(name -> name.endsWith(".class") && !name.startsWith("META-INF"))
            .forEach(name -> names.add(name.replace(".class", "").replace('/', '.')));
      }
    }
    ClassLoader platform = ClassLoader.getPlatformClassLoader();
    try (URLClassLoader loader = new URLClassLoader(urls.toArray(URL[]::new), platform)) {
      assertThat(names).hasSizeGreaterThan(5000).anyMatch(name -> name.contains("$$Plain"));
      assertThat(names).filteredOn(name -> isUnsound(name, loader)).isEmpty();
    }
  }

  /** To ask for its methods is to have it verified. */
  private static boolean isUnsound(String name, ClassLoader loader) {
    try {
      Class.forName(name, false, loader).getDeclaredMethods();
      return false;
    } catch (VerifyError | ClassFormatError | IncompatibleClassChangeError e) {
      return true;
    } catch (ClassNotFoundException | LinkageError e) {
      // It is for a library that is not here.
      return false;
    }
  }

  @Test
  void javaKeepsTheOrderOfItsProvidersWhereSomebodyNamedAnother() throws IOException {
    Workspace work =
        Workspace.hollowfield(Files.createDirectory(folder.resolve("project"))).tables(1);
    Path other = folder.resolve("other.properties");
    Files.writeString(other, "keystore.type=jks\n");
    work.variable("JDK_JAVA_OPTIONS", "-Djava.security.properties=" + other)
        .ladder("apply")
        .exits(0)
        .says("dev is at 0001");
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
