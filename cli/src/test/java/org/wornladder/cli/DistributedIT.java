package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;

/** A database of three nodes, of which one is killed in the middle of a run. */
@Isolated
class DistributedIT {
  private static final Path JARS = Workspace.DISTRIBUTION.resolveSibling("ignite");

  /** What its documentation names for Java 17 ("Running Ignite with Java 11 or later"). */
  private static final List<String> OPENED =
      Stream.of(
              "java.base/jdk.internal.access",
              "java.base/jdk.internal.misc",
              "java.base/sun.nio.ch",
              "java.base/sun.util.calendar",
              "java.management/com.sun.jmx.mbeanserver",
              "jdk.internal.jvmstat/sun.jvmstat.monitor",
              "java.base/sun.reflect.generics.reflectiveObjects",
              "jdk.management/com.sun.management.internal",
              "java.base/java.io",
              "java.base/java.nio",
              "java.base/java.net",
              "java.base/java.util",
              "java.base/java.util.concurrent",
              "java.base/java.util.concurrent.locks",
              "java.base/java.util.concurrent.atomic",
              "java.base/java.lang",
              "java.base/java.lang.invoke",
              "java.base/java.math",
              "java.sql/java.sql",
              "java.base/java.time")
          .map(name -> "--add-opens=" + name + "=ALL-UNNAMED")
          .toList();

  @TempDir Path folder;
  private final List<Process> nodes = new ArrayList<>();

  @AfterEach
  void stop() throws InterruptedException {
    for (Process node : nodes) {
      node.destroyForcibly().waitFor();
    }
  }

  private void startNode(int discovery, int clients) throws IOException {
    int number = nodes.size();
    Path work = Files.createDirectories(folder.resolve("node" + number));
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.addAll(OPENED);
    command.addAll(List.of("-Xmx384m", "-DIGNITE_QUIET=true", "-DIGNITE_UPDATE_NOTIFIER=false"));
    command.addAll(List.of("-cp", JARS + "/*"));
    command.add(Path.of("src/test/resources/ignite/Node.java").toAbsolutePath().toString());
    command.addAll(
        List.of("" + number, work.toString(), "" + discovery, Integer.toString(clients)));
    nodes.add(
        new ProcessBuilder(command)
            .redirectError(folder.resolve("node" + number + ".log").toFile())
            .start());
  }

  /** Three ports in a row that are free. */
  private static int freePorts() throws IOException {
    for (int port = 24_000 + (int) (ProcessHandle.current().pid() % 20_000); ; port += 3) {
      try (ServerSocket one = new ServerSocket(port);
          ServerSocket two = new ServerSocket(port + 1);
          ServerSocket three = new ServerSocket(port + 2)) {
        return Math.min(one.getLocalPort(), Math.min(two.getLocalPort(), three.getLocalPort()));
      } catch (IOException e) {
        if (port > 60_000) {
          throw e;
        }
      }
    }
  }

  private void startNodes(int clients) throws IOException {
    int discovery = clients + 100;
    for (int i = 0; i < 3; i++) {
      startNode(discovery, clients);
      BufferedReader lines =
          new BufferedReader(
              new InputStreamReader(nodes.get(i).getInputStream(), StandardCharsets.UTF_8));
      String line = lines.readLine();
      while (line != null && !line.startsWith("ready")) {
        line = lines.readLine();
      }
      assertThat(line).isEqualTo("ready " + (i + 1));
    }
  }

  @Test
  @Timeout(300)
  void aRunGoesOnWhereItWasWhenANodeWasKilled() throws Exception {
    int clients = freePorts();
    startNodes(clients);
    Files.createDirectories(folder.resolve("drivers"));
    for (String jar : List.of("ignite-core", "cache-api")) {
      try (Stream<Path> jars = Files.list(JARS)) {
        Path found =
            jars.filter(one -> one.getFileName().toString().startsWith(jar))
                .findFirst()
                .orElseThrow();
        Files.copy(found, folder.resolve("drivers").resolve(found.getFileName()));
      }
    }
    Workspace work =
        new Workspace(folder)
            .variable("JAVA_TOOL_OPTIONS", String.join(" ", OPENED))
            .file(
                "ladder.yaml",
                """
                name: hollowfield
                environments:
                  dev:
                    url: 'jdbc:ignite:thin://127.0.0.1:%d,127.0.0.1:%d,127.0.0.1:%d'
                    table-options: WITH "template=replicated"
                """
                    .formatted(clients, clients + 1, clients + 2));
    for (int i = 1; i <= 30; i++) {
      work.rung(
          "%04d-bin-%d".formatted(i, i),
          "CREATE TABLE bin_%d (id integer PRIMARY KEY, code varchar(9)) WITH \"template=replicated\";"
              .formatted(i),
          "DROP TABLE bin_%d;".formatted(i));
    }
    work.ladder("apply", "--to", "1").exits(0);
    Process apply = work.start("apply");
    Thread.sleep(2500);
    nodes.get(2).destroyForcibly().waitFor();
    apply.waitFor();
    work.ladder("apply", "--lock-wait", "60").exits(0);
    work.ladder("status").exits(0).says("dev is at 0030");
    work.ladder("drift").exits(0).says("the chain holds");
    work.ladder("history").exits(0).says("each following from the one before");
  }
}
