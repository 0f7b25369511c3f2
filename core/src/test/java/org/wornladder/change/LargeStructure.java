package org.wornladder.change;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.server.TestDatabase.Kind;

/** Statements that make a database as large as an application's, with rings and chains in it. */
final class LargeStructure {
  private static final int TABLES = 60;
  private static final int VIEWS = 20;

  private LargeStructure() {}

  static List<String> of(Kind kind) {
    List<String> statements = new ArrayList<>();
    boolean sqlite = kind == Kind.SQLITE;
    for (int i = 0; i < TABLES; i++) {
      String keys =
          sqlite
              ? ", FOREIGN KEY (next_id) REFERENCES bin_%d (id), FOREIGN KEY (far_id) REFERENCES bin_%d (id) ON DELETE CASCADE"
                  .formatted((i + 1) % TABLES, (i * 7 + 3) % TABLES)
              : "";
      statements.add(
          ("CREATE TABLE bin_%d (id int NOT NULL, code varchar(20) DEFAULT 'it''s' NOT NULL,"
                  + " weight decimal(8,2) DEFAULT 0, next_id int, far_id int, picked date,"
                  + " PRIMARY KEY (id), CONSTRAINT heavy_%d CHECK (weight >= %d), UNIQUE (code, id)%s)")
              .formatted(i, i, -i, keys));
      statements.add("CREATE INDEX bin_%d_picked ON bin_%d (picked, weight DESC)".formatted(i, i));
    }
    for (int i = 0; i < TABLES && !sqlite; i++) {
      statements.add(
          "ALTER TABLE bin_%d ADD CONSTRAINT next_%d FOREIGN KEY (next_id) REFERENCES bin_%d (id)"
              .formatted(i, i, (i + 1) % TABLES));
      statements.add(
          "ALTER TABLE bin_%d ADD FOREIGN KEY (far_id) REFERENCES bin_%d (id) ON DELETE CASCADE"
              .formatted(i, (i * 7 + 3) % TABLES));
    }
    // Each stands on the one before, and is called so that the alphabet puts it first.
    for (int i = 0; i < VIEWS; i++) {
      String from = i == 0 ? "bin_0" : "view_%02d".formatted(VIEWS - i);
      statements.add(
          "CREATE VIEW view_%02d AS SELECT b.id, b.code FROM %s b WHERE b.id > %d"
              .formatted(VIEWS - i - 1, from, i));
    }
    return statements;
  }
}
