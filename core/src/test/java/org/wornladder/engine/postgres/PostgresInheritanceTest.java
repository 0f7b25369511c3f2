package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.Against;
import org.wornladder.DriftRung;
import org.wornladder.RunListener;
import org.wornladder.TestLadder;
import org.wornladder.change.Difference;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Somebody alters a table that others have their columns from: these are not altered again. */
class PostgresInheritanceTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  @BeforeEach
  void tables() {
    database = TestDatabase.make(Kind.POSTGRES, root);
    ladder = TestLadder.on(database, root);
    ladder.rung(
        "0001-picking",
        """
        CREATE TABLE picking (id int, at date NOT NULL, kg int, "odd, one" int) PARTITION BY RANGE (at);
        CREATE TABLE picking_26 PARTITION OF picking FOR VALUES FROM ('2026-01-01') TO ('2027-01-01');
        CREATE TABLE before_27 PARTITION OF picking FOR VALUES FROM ('2027-01-01') TO ('2028-01-01')
          PARTITION BY LIST (at);
        CREATE TABLE a_day PARTITION OF before_27 FOR VALUES IN ('2027-02-02');
        CREATE TABLE "per, son" (name text NOT NULL DEFAULT 'x', born int);
        CREATE TABLE grower () INHERITS ("per, son");
        CREATE TABLE a_picker (born int, hired date) INHERITS (grower);
        CREATE TABLE bin (id int PRIMARY KEY, crate int REFERENCES bin);
        CREATE INDEX bin_crate ON bin (crate);
        COMMENT ON INDEX bin_crate IS 'before';
        """,
        "SELECT 1;");
    ladder.apply();
    database.execute(
        "ALTER TABLE picking ADD note text, ALTER kg TYPE bigint, ALTER id SET NOT NULL,"
            + " ALTER id SET DEFAULT 4, DROP \"odd, one\"",
        "COMMENT ON COLUMN picking.note IS 'said'",
        "ALTER TABLE \"per, son\" ADD fax text, ALTER born TYPE bigint, ALTER name DROP NOT NULL,"
            + " ALTER born SET STATISTICS 50",
        "ALTER TABLE a_picker ALTER name SET DEFAULT 'z', ADD glove int",
        "ALTER TABLE bin DROP CONSTRAINT bin_crate_fkey, ADD CONSTRAINT bin_crate_fkey FOREIGN KEY"
            + " (crate) REFERENCES bin ON DELETE SET NULL (crate), REPLICA IDENTITY FULL",
        "COMMENT ON CONSTRAINT bin_crate_fkey ON bin IS 'new'",
        "COMMENT ON CONSTRAINT bin_pkey ON bin IS 'the key'",
        "COMMENT ON INDEX bin_crate IS 'after'");
  }

  private List<Difference> drift() {
    return ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).structure();
  }

  @Test
  void itIsBroughtBack() {
    assertThat(drift()).hasSizeGreaterThan(20);
    var mending = ladder.open().mendScript(Optional.of("dev"), Against.EXPECTED, false);
    assertThat(mending.leftOut()).isEmpty();
    mending.statements().forEach(database::execute);
    assertThat(drift()).isEmpty();
  }

  @Test
  void itIsMadeOfficialAndRunsElsewhere() {
    DriftRung official =
        ladder
            .open()
            .driftAsRung(Optional.of("dev"), "by hand", TestLadder.YES, RunListener.SILENT);
    assertThat(official.leftOut()).isEmpty();
    assertThat(drift()).isEmpty();
    // Which of two new columns of a table came first, nothing tells any more.
    assertThat(ladder.open().drift(Optional.of("dev"), Against.RUNGS, false).structure())
        .allMatch(one -> one.name().equals("a_picker"));
    assertThat(ladder.text(official.file()))
        .contains("COMMENT ON COLUMN picking.note IS 'said'", "ON DELETE SET NULL (crate)")
        .doesNotContain("a_day", "before_27", "grower");
  }
}
