package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;

/** A folder in which the built program is run as a user would run it. */
final class Workspace {
  static final Path DISTRIBUTION = Path.of(System.getProperty("ladder.distribution"));
  private static final long PATIENCE_SECONDS = 120;

  private final Path folder;
  private final Map<String, String> variables = new LinkedHashMap<>();
  private Path program = DISTRIBUTION.resolve("bin/ladder");

  Workspace(Path folder) {
    this.folder = folder;
  }

  /** A project with dev (disposable), test, and live (guarded, promoted from test). */
  static Workspace hollowfield(Path folder) {
    return new Workspace(folder)
        .file(
            "ladder.yaml",
            """
            name: hollowfield
            environments:
              dev: { url: jdbc:sqlite:data/dev.db, disposable: true }
              test: { url: jdbc:sqlite:data/test.db }
              live: { url: jdbc:sqlite:data/live.db, guarded: true, promoted-from: test }
            values:
              season: "2026"
              reader_password: ${READER_PASSWORD}
            """)
        .variable("READER_PASSWORD", "hush-4711")
        .file("data/keep", "");
  }

  /** What a run of the program answered. */
  record Run(int code, String out, String err) {
    Run exits(int expected) {
      assertThat(code).as("exit code of: %s%s", out, err).isEqualTo(expected);
      return this;
    }

    Run says(String... parts) {
      assertThat(out).contains(parts);
      return this;
    }

    Run complains(String... parts) {
      assertThat(err).contains(parts).doesNotContain("Exception", "\tat ");
      return this;
    }
  }

  Workspace program(Path other) {
    program = other;
    return this;
  }

  Workspace variable(String name, String value) {
    variables.put(name, value);
    return this;
  }

  Path folder() {
    return folder;
  }

  Workspace file(String name, String text) {
    try {
      Files.createDirectories(folder.resolve(name).getParent());
      Files.writeString(folder.resolve(name), text);
      return this;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  String text(String name) {
    try {
      return Files.readString(folder.resolve(name));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  Workspace delete(String name) {
    try {
      Files.delete(folder.resolve(name));
      return this;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** A rung with a way up and a way down. */
  Workspace rung(String name, String up, String down) {
    return file("rungs/" + name + ".sql", "--| up\n" + up + "\n--| down\n" + down + "\n");
  }

  /** Small rungs from 1 to {@code count}, each with a table of its own. */
  Workspace tables(int count) {
    for (int i = 1; i <= count; i++) {
      rung(
          "%04d-bin-%d".formatted(i, i),
          "CREATE TABLE bin_%d (id integer PRIMARY KEY);\nINSERT INTO bin_%d VALUES (%d);"
              .formatted(i, i, i),
          "DROP TABLE bin_%d;".formatted(i));
    }
    return this;
  }

  Run ladder(String... args) {
    List<String> command = new ArrayList<>(List.of(program.toString()));
    command.addAll(List.of(args));
    return run(command);
  }

  Process start(String... args) {
    return start(ProcessBuilder.Redirect.DISCARD, args);
  }

  /** With what it says of its progress going somewhere. */
  Process start(ProcessBuilder.Redirect progress, String... args) {
    List<String> command = new ArrayList<>(List.of(program.toString()));
    command.addAll(List.of(args));
    try {
      return builder(command)
          .redirectOutput(ProcessBuilder.Redirect.DISCARD)
          .redirectError(progress)
          .start();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  Run run(List<String> command) {
    try {
      Path out = Files.createTempFile("out", "");
      Path err = Files.createTempFile("err", "");
      Process process =
          builder(command).redirectOutput(out.toFile()).redirectError(err.toFile()).start();
      process.getOutputStream().close();
      assertThat(process.waitFor(PATIENCE_SECONDS, TimeUnit.SECONDS)).as("it ends").isTrue();
      Run run = new Run(process.exitValue(), readAndDelete(out), readAndDelete(err));
      assertThat(run.out() + run.err()).doesNotContain("hush-4711");
      return run;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }

  private ProcessBuilder builder(List<String> command) {
    ProcessBuilder builder = new ProcessBuilder(command).directory(folder.toFile());
    builder.environment().put("LC_ALL", "C.UTF-8");
    builder.environment().remove("JAVA_TOOL_OPTIONS");
    builder.environment().putAll(variables);
    return builder;
  }

  private static String readAndDelete(Path file) throws IOException {
    String text = Files.readString(file, StandardCharsets.UTF_8);
    Files.delete(file);
    return text;
  }

  /** The first column of a query against one of the databases. */
  List<String> query(String database, String sql) {
    List<String> values = new ArrayList<>();
    try (Connection connection = connect(database);
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      while (rows.next()) {
        values.add(rows.getString(1));
      }
      return values;
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  Workspace execute(String database, String sql) {
    try (Connection connection = connect(database);
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
      return this;
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  Connection connect(String database) throws SQLException {
    return DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("data/" + database + ".db"));
  }

  List<String> tablesOf(String database) {
    return query(
        database,
        "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'ladder%' ORDER BY name");
  }

  List<String> events(String database) {
    return query(database, "SELECT event || ' ' || name FROM ladder_journal ORDER BY number");
  }
}
