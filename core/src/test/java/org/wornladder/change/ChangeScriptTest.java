package org.wornladder.change;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.engine.Access;
import org.wornladder.engine.Session;
import org.wornladder.schema.Snapshot;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.server.TestSession;

/** What a hand changed is brought back by the statements that the differences give. */
class ChangeScriptTest {
  @TempDir Path root;

  private static List<String> before(Kind kind) {
    return List.of(
        "CREATE TABLE orchard (id int PRIMARY KEY, name varchar(40) NOT NULL)",
        "CREATE TABLE block (id int PRIMARY KEY, orchard_id int, label varchar(20) DEFAULT 'x',"
            + " row_count int"
            + (kind == Kind.SQLITE
                ? ", FOREIGN KEY (orchard_id) REFERENCES orchard (id))"
                : ", CONSTRAINT home FOREIGN KEY (orchard_id) REFERENCES orchard (id) ON DELETE CASCADE,"
                    + " CONSTRAINT sane CHECK (row_count > 0))"),
        "CREATE INDEX block_label ON block (label)",
        "CREATE VIEW z_labels AS SELECT id, label FROM block",
        "CREATE VIEW a_labels AS SELECT id, label FROM z_labels",
        "CREATE TABLE crate (id int PRIMARY KEY)");
  }

  /** What every engine can take back in place. */
  private static List<String> changes(Kind kind) {
    List<String> changes = new ArrayList<>();
    changes.add("DROP VIEW a_labels");
    changes.add("DROP VIEW z_labels");
    changes.add(
        kind == Kind.MARIADB ? "DROP INDEX block_label ON block" : "DROP INDEX block_label");
    changes.add("ALTER TABLE block ADD fax varchar(20) DEFAULT 'none'");
    changes.add("CREATE INDEX block_fax ON block (fax)");
    changes.add("CREATE VIEW z_labels AS SELECT id, fax FROM block");
    changes.add("CREATE VIEW m_faxes AS SELECT id, fax FROM z_labels");
    changes.add("CREATE VIEW b_faxes AS SELECT id, fax FROM m_faxes");
    changes.add("CREATE TABLE legacy (id int PRIMARY KEY)");
    changes.add("DROP TABLE crate");
    if (kind != Kind.SQLITE) {
      changes.add(
          "ALTER TABLE block DROP "
              + (kind == Kind.MARIADB ? "FOREIGN KEY" : "CONSTRAINT")
              + " home");
      changes.add("ALTER TABLE block DROP CONSTRAINT sane");
      changes.add("ALTER TABLE block ADD CONSTRAINT other CHECK (row_count < 9)");
      changes.add("ALTER TABLE block ADD CONSTRAINT one_label UNIQUE (label, id)");
      changes.add("ALTER TABLE block ALTER COLUMN label SET DEFAULT 'y'");
      changes.add(
          switch (kind) {
            case MARIADB -> "ALTER TABLE orchard MODIFY name varchar(60)";
            case H2 -> "ALTER TABLE orchard ALTER COLUMN name SET DATA TYPE varchar(60)";
            default -> "ALTER TABLE orchard ALTER COLUMN name TYPE varchar(60)";
          });
      if (kind != Kind.MARIADB) {
        changes.add("ALTER TABLE orchard ALTER COLUMN name DROP NOT NULL");
      }
    }
    return changes;
  }

  @ParameterizedTest
  @EnumSource
  void whatAHandChangedIsBroughtBackAndForth(Kind kind) throws Exception {
    TestDatabase database = TestDatabase.make(kind, Files.createDirectories(root.resolve("it")));
    before(kind).forEach(database::execute);
    Snapshot was = read(database);
    changes(kind).forEach(database::execute);
    Snapshot is = read(database);
    go(database, is, was);
    go(database, was, is);
    go(database, is, was);
  }

  private void go(TestDatabase database, Snapshot from, Snapshot to) {
    ChangeScript script;
    try (Session session = TestSession.open(database, root, Access.READ)) {
      // The names that the engine gave are those of what stands there now.
      Snapshot standing = read(database);
      script =
          ChangeScript.of(
              Differences.between(standing, to),
              standing,
              to,
              session.ddl(),
              ChangeScript.Origin.ONE_DATABASE);
    }
    assertThat(script.leftOut()).isEmpty();
    assertThat(Differences.between(from, read(database))).isEmpty();
    database.execute(script.statements().toArray(String[]::new));
    assertThat(Differences.between(to, read(database))).isEmpty();
  }

  private Snapshot read(TestDatabase database) {
    try (Session session = TestSession.open(database, root, Access.READ)) {
      return session.structure(List.of()).snapshot();
    } catch (java.sql.SQLException e) {
      throw new IllegalStateException(e);
    }
  }
}
