package org.wornladder.engine.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** The modes that a rung runs under are those of the server's own client. */
class MariadbModesTest {
  @TempDir Path root;

  @Test
  void aTableMayHaveTheNameOfAFunction() {
    TestDatabase database = TestDatabase.make(Kind.MARIADB, root);
    TestLadder.on(database, root)
        .rung("0001-count", "CREATE TABLE count (i int);", "DROP TABLE count;")
        .rung(
            "0002-modes",
            "CREATE TABLE modes AS SELECT @@sql_mode AS here, @@global.sql_mode AS usual;",
            "DROP TABLE modes;")
        .apply();
    assertThat(database.query("SELECT here = usual FROM modes")).containsExactly("1");
  }
}
