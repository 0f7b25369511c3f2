package org.wornladder.engine.mariadb;

import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.engine.RowText;
import org.wornladder.engine.Session;
import org.wornladder.engine.Stage;
import org.wornladder.engine.Staging;
import org.wornladder.engine.ValueKind;
import org.wornladder.project.ProjectException;
import org.wornladder.project.SeedRows;

/**
 * Loads rows as if they were a file of the client's. What would be an error elsewhere is a warning
 * there, so the first warning is made an error again.
 */
final class MariadbLoad {
  private static final Pattern ROW = Pattern.compile(" at row (\\d+)");
  private static final int CHUNKS_AHEAD = 4;
  private static final byte[] END = {};

  private final Session session;
  private final Stage stage;
  private final MariadbStaging staging;

  MariadbLoad(Session session, Stage stage, MariadbStaging staging) {
    this.session = session;
    this.stage = stage;
    this.staging = staging;
  }

  void load(SeedRows rows) throws SQLException {
    List<ValueKind> kinds =
        stage.columns().stream().map(part -> staging.kind(part.column())).toList();
    Chunks chunks = new Chunks();
    Thread writer = new Thread(() -> chunks.write(rows, kinds), "load");
    writer.setDaemon(true);
    writer.start();
    try (org.mariadb.jdbc.Statement sql =
        session.connection().createStatement().unwrap(org.mariadb.jdbc.Statement.class)) {
      sql.setLocalInfileInputStream(chunks);
      sql.execute(text(kinds));
      chunks.refuseFailure();
      refuseWarning(sql, rows);
    } finally {
      writer.interrupt();
    }
  }

  private String text(List<ValueKind> kinds) {
    List<String> columns = new ArrayList<>(List.of(Staging.LINE));
    List<String> set = new ArrayList<>();
    for (int i = 0; i < kinds.size(); i++) {
      String name = staging.name(stage.columns().get(i).name());
      boolean binary = kinds.get(i) == ValueKind.BINARY;
      columns.add(binary ? "@ladder_" + i : name);
      if (binary) {
        set.add(name + " = unhex(@ladder_" + i + ")");
      }
    }
    return "LOAD DATA LOCAL INFILE 'rows' INTO TABLE "
        + staging.staged(stage)
        + " CHARACTER SET utf8mb4 FIELDS TERMINATED BY '\\t' ESCAPED BY '\\\\'"
        + " LINES TERMINATED BY '\\n' ("
        + String.join(", ", columns)
        + ")"
        + (set.isEmpty() ? "" : " SET " + String.join(", ", set));
  }

  private static void refuseWarning(java.sql.Statement sql, SeedRows rows) throws SQLException {
    Optional<String> first = Optional.empty();
    try (ResultSet warnings = sql.executeQuery("SHOW WARNINGS LIMIT 1")) {
      if (warnings.next()) {
        first = Optional.of(warnings.getString(3));
      }
    }
    if (first.isPresent()) {
      Matcher row = ROW.matcher(first.get());
      long number = row.find() ? Long.parseLong(row.group(1)) : 0;
      String column =
          MariadbStaging.columnIn(first.get()).map(name -> "column " + name + ": ").orElse("");
      throw ProjectException.of(
          rows.place(Staging.position(rows, number)),
          column + MariadbStaging.words(first.get()),
          "");
    }
  }

  /** Bytes that one thread writes and another reads. */
  private static final class Chunks extends InputStream {
    private final BlockingQueue<byte[]> queue = new ArrayBlockingQueue<>(CHUNKS_AHEAD);
    private ByteArrayInputStream current = new ByteArrayInputStream(END);
    private boolean ended;
    private volatile Optional<RuntimeException> failure = Optional.empty();

    void write(SeedRows rows, List<ValueKind> kinds) {
      try {
        new RowText(rows, kinds, MariadbStaging::written, this::put).writeAll();
      } catch (RuntimeException e) {
        failure = Optional.of(e);
      } catch (SQLException e) {
        failure = Optional.of(new IllegalStateException(e));
      }
      try {
        queue.put(END);
      } catch (InterruptedException e) {
        // The reader is gone.
        Thread.currentThread().interrupt();
      }
    }

    private void put(byte[] bytes, int length) throws SQLException {
      try {
        if (length > 0) {
          queue.put(Arrays.copyOf(bytes, length));
        }
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new SQLException("interrupted while rows were sent", "57014", e);
      }
    }

    /** What ended the writing before its time. */
    void refuseFailure() {
      if (failure.isPresent()) {
        throw failure.get();
      }
    }

    @Override
    public int read() {
      byte[] one = new byte[1];
      return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
    }

    @Override
    public int read(byte[] buffer, int offset, int length) {
      while (!ended && current.available() == 0) {
        try {
          byte[] next = queue.take();
          ended = next.length == 0;
          current = new ByteArrayInputStream(next);
        } catch (InterruptedException e) {
          Thread.currentThread().interrupt();
          ended = true;
        }
      }
      return ended ? -1 : current.read(buffer, offset, length);
    }
  }
}
