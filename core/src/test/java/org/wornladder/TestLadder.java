package org.wornladder;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.wornladder.RollbackOptions.Selection;
import org.wornladder.server.TestDatabase;

/** A project in a temporary folder, driven through the front door as a Java program would. */
public final class TestLadder {
  private static final Clock CLOCK =
      Clock.fixed(Instant.parse("2026-11-23T07:14:38.042Z"), ZoneOffset.UTC);
  public static final Approval YES = Approval.given(Optional.empty(), true);

  private final Path root;

  private TestLadder(Path root, boolean existing) {
    this.root = root;
  }

  /** The project that stands in a folder already. */
  public static TestLadder at(Path root) {
    return new TestLadder(root, true);
  }

  public Path root() {
    return root;
  }

  public TestLadder(Path root) {
    this(root, false);
    file(
        "ladder.yaml",
        """
        name: hollowfield
        environments:
          dev: { url: "jdbc:sqlite:dev.db", disposable: true }
          test: { url: "jdbc:sqlite:test.db" }
          live: { url: "jdbc:sqlite:live.db", guarded: true, promoted-from: test }
        values: { season: "2026" }
        """);
  }

  /** A project whose one environment is this database. */
  public static TestLadder on(TestDatabase database, Path root) {
    return new TestLadder(root).settings(database, "");
  }

  /** Writes the settings of dev anew. */
  public TestLadder settings(TestDatabase database, String more) {
    return file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + database.url()
            + "', disposable: true"
            + more
            + " }\n");
  }

  public TestLadder file(String name, String text) {
    try {
      Files.createDirectories(root.resolve(name).getParent());
      Files.writeString(root.resolve(name), text);
      return this;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  public String text(String name) {
    try {
      return Files.readString(root.resolve(name));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  public TestLadder rung(String name, String up, String down) {
    return file("rungs/" + name + ".sql", "--| up\n" + up + "\n--| down\n" + down + "\n");
  }

  /** Rungs from 1 on, each with a table of its own. */
  public TestLadder tables(int count) {
    for (int i = 1; i <= count; i++) {
      String table = "bin_" + i;
      rung(
          "%04d-bin-%d".formatted(i, i),
          "CREATE TABLE " + table + " (id integer PRIMARY KEY);",
          "DROP TABLE " + table + ";");
    }
    return this;
  }

  public TestLadder delete(String name) {
    try {
      Files.delete(root.resolve(name));
      return this;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Opens it anew: the files are read as they are now. */
  public Ladder open() {
    return builder().build();
  }

  public Ladder.Builder builder() {
    return Ladder.builder()
        .project(root)
        .variables(Map.of())
        .lockWait(Duration.ofSeconds(10))
        .tool("test")
        .clock(CLOCK);
  }

  public RunResult apply() {
    return apply(RunListener.SILENT);
  }

  public RunResult apply(RunListener listener) {
    return open().apply(Optional.of("dev"), ApplyOptions.ALL, YES, listener);
  }

  /** Applies by several runs at once; returns how many rungs they ran, all together. */
  public long applyAtOnce(int count) throws Exception {
    ExecutorService threads = Executors.newFixedThreadPool(count);
    try {
      Callable<Long> one =
          () ->
              builder()
                  .lockWait(Duration.ofSeconds(100))
                  .build()
                  .apply(Optional.of("dev"), ApplyOptions.ALL, YES, RunListener.SILENT)
                  .rungsRun();
      long ran = 0;
      for (Future<Long> run : threads.invokeAll(Collections.nCopies(count, one))) {
        ran += run.get();
      }
      return ran;
    } finally {
      threads.shutdownNow();
    }
  }

  public RunResult rollback(Selection selection) {
    return open()
        .rollback(
            Optional.of("dev"),
            new RollbackOptions(selection, false, false),
            YES,
            RunListener.SILENT);
  }

  public List<String> query(String sql) {
    List<String> values = new ArrayList<>();
    try (Connection connection = connect();
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

  public void execute(String sql) {
    try (Connection connection = connect();
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  private Connection connect() throws SQLException {
    return DriverManager.getConnection("jdbc:sqlite:" + root.resolve("dev.db"));
  }
}
