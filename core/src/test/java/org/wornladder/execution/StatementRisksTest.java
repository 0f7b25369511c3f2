package org.wornladder.execution;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Place;
import org.wornladder.sql.Splitter;

/** The risks that texts show, statement by statement. */
class StatementRisksTest {
  private static String risks(String script, Dialect dialect) throws Exception {
    return StatementRisks.of(Splitter.split(script, dialect, Place.of("x"))).stream()
        .map(found -> found.risk().kind().label() + " " + found.risk().subject())
        .collect(Collectors.joining(", "));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      nullValues = "none",
      value = {
        "DROP TABLE bin|erases table bin, breaks-old-code table bin",
        "DROP TABLE IF EXISTS bin, app.crate|erases table bin, breaks-old-code table bin, erases table app.crate, breaks-old-code table app.crate",
        "CREATE TABLE t (a int); DROP TABLE t|none",
        "CREATE TEMP TABLE t (a int); DELETE FROM t|none",
        "ALTER TABLE bin DROP COLUMN fax|erases column bin.fax, breaks-old-code column bin.fax",
        "ALTER TABLE bin DROP fax|erases column bin.fax, breaks-old-code column bin.fax",
        "ALTER TABLE bin DROP COLUMN IF EXISTS fax CASCADE|erases column bin.fax, breaks-old-code column bin.fax",
        "ALTER TABLE bin DROP CONSTRAINT bin_check|none",
        "ALTER TABLE bin DROP INDEX bin_code|none",
        "ALTER TABLE bin DROP PRIMARY KEY|none",
        "ALTER TABLE bin DROP FOREIGN KEY bin_grower|none",
        "ALTER TABLE bin ADD note text, DROP fax|erases column bin.fax, breaks-old-code column bin.fax",
        "ALTER TABLE bin ADD COLUMN note text|none",
        "ALTER TABLE bin ADD COLUMN tare int NOT NULL|may-fail column bin.tare, breaks-old-code column bin.tare",
        "ALTER TABLE bin ADD tare int NOT NULL|may-fail column bin.tare, breaks-old-code column bin.tare",
        "ALTER TABLE bin ADD COLUMN tare int NOT NULL DEFAULT 0|none",
        "ALTER TABLE bin ADD COLUMN tare decimal(8,2) NOT NULL|may-fail column bin.tare, breaks-old-code column bin.tare",
        "ALTER TABLE bin ADD COLUMN id int NOT NULL GENERATED ALWAYS AS IDENTITY|none",
        "ALTER TABLE bin ADD CONSTRAINT k UNIQUE (code)|may-fail table bin",
        "ALTER TABLE bin ADD UNIQUE (code)|may-fail table bin",
        "ALTER TABLE bin ADD PRIMARY KEY (code)|may-fail table bin",
        "ALTER TABLE bin ADD CHECK (tare > 0)|may-fail table bin",
        "ALTER TABLE bin ADD CONSTRAINT c CHECK (tare > 0) NOT VALID|none",
        "ALTER TABLE bin ADD CONSTRAINT f FOREIGN KEY (a) REFERENCES g (b)|may-fail table bin",
        "ALTER TABLE bin ADD CONSTRAINT f FOREIGN KEY (a) REFERENCES g (b) NOT VALID|none",
        "ALTER TABLE bin ADD INDEX bin_code (code)|none",
        "ALTER TABLE bin ALTER COLUMN tare SET NOT NULL|may-fail column bin.tare, breaks-old-code column bin.tare",
        "ALTER TABLE bin ALTER tare SET NOT NULL|may-fail column bin.tare, breaks-old-code column bin.tare",
        "ALTER TABLE bin ALTER COLUMN tare SET DEFAULT 0|none",
        "ALTER TABLE bin ALTER COLUMN tare DROP NOT NULL|none",
        "ALTER TABLE bin ALTER COLUMN tare DROP DEFAULT|none",
        "ALTER TABLE bin RENAME COLUMN wt TO kg|breaks-old-code column bin.wt",
        "ALTER TABLE bin RENAME wt TO kg|breaks-old-code column bin.wt",
        "ALTER TABLE bin RENAME TO crate|breaks-old-code table bin",
        "ALTER TABLE bin RENAME CONSTRAINT a TO b|none",
        "ALTER TABLE bin RENAME KEY a TO b|none",
        "ALTER TABLE bin RENAME crate|breaks-old-code table bin",
        "ALTER TABLE bin RENAME AS crate|breaks-old-code table bin",
        "ALTER TABLE bin ALTER COLUMN wt RENAME TO kg|breaks-old-code column bin.wt",
        "ALTER TABLE bin CHANGE wt kg int, CHANGE COLUMN n n bigint|breaks-old-code column bin.wt",
        "RENAME TABLE bin TO crate, app.kiln TO app.oven|breaks-old-code table bin, breaks-old-code table app.kiln",
        "ALTER TABLE ONLY app.bin RENAME TO crate|breaks-old-code table app.bin",
        "TRUNCATE bin|erases table bin",
        "TRUNCATE TABLE bin|erases table bin",
        "DELETE FROM bin|erases table bin",
        "DELETE FROM bin WHERE code = 'a'|erases table bin",
        "UPDATE bin SET code = 'a'|none",
        "INSERT INTO bin VALUES ('DROP TABLE bin')|none",
        "SELECT 'DELETE FROM bin'|none",
        "CREATE UNIQUE INDEX i ON bin (code)|may-fail table bin",
        "CREATE INDEX i ON bin (code)|none",
        "CREATE TABLE t (a int); CREATE UNIQUE INDEX i ON t (a)|none",
        "DROP VIEW heavy|breaks-old-code view heavy",
        "DROP VIEW heavy; CREATE VIEW heavy AS SELECT 1|none",
        "DROP FUNCTION tare(int)|breaks-old-code function tare",
        "DROP INDEX i|none",
        "DROP TRIGGER t|none",
        "CREATE VIEW v AS SELECT 1|none",
        "COMMENT ON TABLE bin IS 'DROP'|none",
        "-- DROP TABLE bin@SELECT 1|none",
        "ALTER TABLE kiln RENAME TO old_kiln; CREATE TABLE kiln (a int); INSERT INTO kiln SELECT a FROM old_kiln; DROP TABLE old_kiln|none",
        "CREATE TABLE kiln_new (a int); DROP TABLE kiln; ALTER TABLE kiln_new RENAME TO kiln|erases table kiln, breaks-old-code table kiln",
        "DROP TABLE \"Bin\"|erases table Bin, breaks-old-code table Bin",
        "ALTER TABLE \"b in\" DROP COLUMN \"f ax\"|erases column b in.f ax, breaks-old-code column b in.f ax",
        "ALTER TABLE bin ADD COLUMN doubled int GENERATED ALWAYS AS (tare * 2) STORED NOT NULL|none",
        "ALTER TABLE bin ADD COLUMN n int, ADD COLUMN m int NOT NULL|may-fail column bin.m, breaks-old-code column bin.m"
      })
  void aTableOfChanges(String script, String risks) throws Exception {
    assertThat(risks(script.replace('@', '\n') + ";", Dialects.NEUTRAL))
        .isEqualTo(risks == null ? "" : risks);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "ALTER TABLE `bin` DROP COLUMN `fax`|erases column bin.fax, breaks-old-code column bin.fax"
      })
  void otherQuotes(String script, String risks) throws Exception {
    assertThat(List.of(risks(script, Dialects.MARIADB))).containsExactly(risks);
  }
}
