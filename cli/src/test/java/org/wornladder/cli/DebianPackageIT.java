package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The Debian package, installed below a folder of its own and removed again; for root alone. */
class DebianPackageIT {
  @TempDir Path folder;
  private Workspace work;

  private Workspace.Run dpkg(Path root, String... options) {
    List<String> command =
        new ArrayList<>(List.of("dpkg", "--root=" + root, "--force-depends", "--log=/dev/null"));
    command.addAll(List.of(options));
    return work.run(command);
  }

  private static boolean isAtHand() {
    return System.getProperty("user.name").equals("root")
        && Stream.of("/usr/bin/dpkg", "/bin/dpkg").anyMatch(file -> Files.exists(Path.of(file)));
  }

  @Test
  void isInstalledAndRemoved() throws IOException {
    assumeTrue(isAtHand(), "dpkg and root");
    work = Workspace.hollowfield(Files.createDirectory(folder.resolve("project"))).tables(1);
    Path root = folder.resolve("system");
    Files.createDirectories(root.resolve("var/lib/dpkg/info"));
    Files.createDirectories(root.resolve("var/lib/dpkg/updates"));
    Files.createFile(root.resolve("var/lib/dpkg/status"));
    String deb = System.getProperty("ladder.debianPackage");

    dpkg(root, "--install", deb).exits(0);
    assertThat(root.resolve("usr/share/man/man1/ladder-apply.1")).isRegularFile();
    assertThat(root.resolve("usr/share/bash-completion/completions/ladder")).isRegularFile();
    work.program(root.resolve("usr/bin/ladder")).ladder("apply").exits(0).says("dev is at 0001");

    dpkg(root, "--remove", "worn-ladder").exits(0);
    try (Stream<Path> left = Files.walk(root.resolve("usr"))) {
      assertThat(left.filter(Files::isRegularFile)).isEmpty();
    } catch (java.nio.file.NoSuchFileException e) {
      assertThat(root.resolve("usr")).doesNotExist();
    }
  }
}
