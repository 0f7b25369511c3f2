package org.wornladder.server;

import java.io.File;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.wornladder.server.TestDatabase.Kind;

/**
 * Runs scripts by the client that comes with a database: psql, mariadb, sqlite3, H2's RunScript.
 */
public final class OwnClient {
  private OwnClient() {}

  /** Whether it is on this machine. MariaDB's alters comments, H2 has none that is a program. */
  public static boolean isHere(Kind kind) {
    return switch (kind) {
      case POSTGRES -> isThere("psql");
      case SQLITE -> isThere("sqlite3");
      case MARIADB, H2 -> false;
    };
  }

  private static boolean isThere(String program) {
    return Stream.of(System.getenv("PATH").split(File.pathSeparator))
        .anyMatch(folder -> Files.isExecutable(Path.of(folder, program)));
  }

  /**
   * Runs scripts, each from a file of its own.
   *
   * @return what the client says if it fails; empty otherwise
   */
  public static String run(TestDatabase database, Path folder, List<String> scripts)
      throws IOException, InterruptedException {
    List<Path> files = new ArrayList<>();
    for (String script : scripts) {
      files.add(Files.writeString(folder.resolve("client-" + files.size() + ".sql"), script));
    }
    return database.kind() == Kind.POSTGRES ? psql(database, files) : sqlite(database, files);
  }

  private static String psql(TestDatabase database, List<Path> files)
      throws IOException, InterruptedException {
    String url = database.url().substring("jdbc:".length());
    List<String> command = new ArrayList<>(List.of("psql", "-X", "-q", "-v", "ON_ERROR_STOP=1"));
    files.forEach(file -> command.addAll(List.of("-f", file.toString())));
    command.add(url);
    return said(command, "");
  }

  private static String sqlite(TestDatabase database, List<Path> files)
      throws IOException, InterruptedException {
    StringBuilder input = new StringBuilder(".bail on\n");
    files.forEach(file -> input.append(".read '").append(file).append("'\n"));
    return said(
        List.of("sqlite3", database.url().substring("jdbc:sqlite:".length())), input.toString());
  }

  private static String said(List<String> command, String input)
      throws IOException, InterruptedException {
    Path out = Files.createTempFile("client", ".txt");
    Process process =
        new ProcessBuilder(command)
            .redirectError(ProcessBuilder.Redirect.to(out.toFile()))
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    process.getOutputStream().write(input.getBytes(StandardCharsets.UTF_8));
    process.getOutputStream().close();
    int code = process.waitFor();
    String said = Files.readString(out);
    Files.delete(out);
    return code == 0 && !said.contains("ERROR") ? "" : "exit " + code + ": " + said;
  }
}
