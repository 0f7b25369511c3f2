package org.wornladder.server;

import java.io.File;
import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.h2.tools.RunScript;
import org.wornladder.server.TestDatabase.Kind;

/**
 * Runs scripts by the client that comes with a database: psql, mariadb, sqlite3, H2's RunScript.
 */
public final class OwnClient {
  private OwnClient() {}

  /** A statement with others in it, for which the client mariadb needs another delimiter. */
  private static final Pattern COMPOUND =
      Pattern.compile("(?s)(CREATE .*?(PROCEDURE|FUNCTION|TRIGGER|EVENT) |BEGIN NOT|IF ).*");

  /** Whether it is on this machine. */
  public static boolean isHere(Kind kind) {
    return switch (kind) {
      case POSTGRES -> isThere("psql");
      case SQLITE -> isThere("sqlite3");
      case MARIADB -> isThere("mariadb") || MariadbServer.isOurs();
      case H2 -> true;
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
    return switch (database.kind()) {
      case POSTGRES -> psql(database, files);
      case SQLITE -> sqlite(database, files);
      case MARIADB -> mariadb(database, scripts);
      case H2 -> runScript(database, files);
    };
  }

  private static String runScript(TestDatabase database, List<Path> files) {
    try {
      for (Path file : files) {
        RunScript.execute(database.url(), "", "", file.toString(), StandardCharsets.UTF_8, false);
      }
      return "";
    } catch (SQLException e) {
      return e.getMessage();
    }
  }

  /** With comments, which the client leaves out otherwise. */
  private static String mariadb(TestDatabase database, List<String> scripts)
      throws IOException, InterruptedException {
    StringBuilder input = new StringBuilder();
    for (String script : scripts) {
      boolean compound = COMPOUND.matcher(script).matches();
      input.append(compound ? "DELIMITER $$\n" + script + "$$\nDELIMITER ;\n" : script + "\n;\n");
    }
    return said(mariadbCommand(database, List.of("--comments")), input.toString());
  }

  private static List<String> mariadbCommand(TestDatabase database, Collection<String> more) {
    URI url = URI.create(database.url().substring("jdbc:".length()));
    Map<String, String> options = new HashMap<>();
    for (String option : url.getQuery().split("&")) {
      options.put(option.split("=")[0], option.split("=")[1]);
    }
    String program = isThere("mariadb") ? "mariadb" : MariadbServer.client().toString();
    List<String> command =
        new ArrayList<>(
            List.of(
                program,
                "--no-defaults",
                "--default-character-set=utf8mb4",
                "--protocol=tcp",
                "--skip-ssl",
                "-h" + url.getHost(),
                "-P" + url.getPort(),
                "-u" + options.get("user"),
                "-p" + options.get("password")));
    command.addAll(more);
    command.add(url.getPath().substring(1));
    return command;
  }

  /**
   * Starts a client that reads one script, as a person would have it run.
   *
   * @param options of the client, ahead of the database's name
   */
  public static Process start(TestDatabase database, Path script, List<String> options)
      throws IOException {
    String url = database.url();
    List<String> command = new ArrayList<>();
    switch (database.kind()) {
      case POSTGRES -> {
        command.addAll(List.of("psql", "-X", "-q", "-v", "ON_ERROR_STOP=1"));
        command.addAll(options);
        command.add(url.substring("jdbc:".length()));
      }
      case SQLITE -> {
        command.addAll(List.of("sqlite3", "-bail"));
        command.addAll(options);
        command.add(url.substring("jdbc:sqlite:".length()));
      }
      case MARIADB -> command.addAll(mariadbCommand(database, options));
      case H2 -> throw new IllegalArgumentException("H2 has a class, and no program");
    }
    return new ProcessBuilder(command)
        .redirectInput(script.toFile())
        .redirectErrorStream(true)
        .redirectOutput(script.resolveSibling(script.getFileName() + ".out").toFile())
        .start();
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
