package org.wornladder.engine.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What MySQL 9.7 said where MariaDB says it otherwise, taken down word by word. */
class MysqlCatalogTest {
  @ParameterizedTest
  @CsvSource({
    "9.7.4-2, true, 9, 7, 4",
    "8.0.16, true, 8, 0, 16",
    "8.0, true, 8, 0, 0",
    "8.4.3-0ubuntu1, true, 8, 4, 3",
    "10.6.18-MariaDB-log, false, 10, 6, 18",
    "5.5.5-10.11.6-MariaDB-0+deb12u1, false, 10, 11, 6",
    "12.0.2-MariaDB, false, 12, 0, 2",
    "something else, true, 0, 0, 0",
  })
  void theVersionSaysWhichServerItIs(
      String version, boolean mysql, int major, int minor, int patch) {
    assertThat(MariadbServer.of(version)).isEqualTo(new MariadbServer(mysql, major, minor, patch));
  }

  @ParameterizedTest
  @CsvSource({
    "8.0.15, false",
    "8.0.16, true",
    "8.1.0, true",
    "9.0.0, true",
    "7.9.99, false",
    "5.7.44, false"
  })
  void versionsAreComparedNumberByNumber(String version, boolean supported) {
    assertThat(MariadbServer.of(version).isAtLeast(8, 0, 16)).isEqualTo(supported);
  }

  @ParameterizedTest
  @CsvSource(
      quoteCharacter = '~',
      delimiter = '|',
      value = {
        "x'y              | varchar(40)    |                   | 'x''y'",
        "NULL             | varchar(9)     |                   | 'NULL'",
        "b'101'           | bit(3)         |                   | b'101'",
        "0x0102           | binary(2)      |                   | 0x0102",
        "3                | int unsigned   |                   | 3",
        "1.50             | decimal(5,2)   |                   | 1.50",
        "2026-01-01       | date           |                   | '2026-01-01'",
        "b                | enum('a','b')  |                   | 'b'",
        "CURRENT_TIMESTAMP(3) | datetime(3) | DEFAULT_GENERATED on update CURRENT_TIMESTAMP(3)"
            + " | CURRENT_TIMESTAMP(3)",
        "uuid_to_bin(uuid()) | binary(16)  | DEFAULT_GENERATED | (uuid_to_bin(uuid()))",
        "_utf8mb4\\'q\\'  | text           | DEFAULT_GENERATED | (_utf8mb4'q')",
      })
  void defaultsBecomeSql(String inCatalog, String type, String extra, String sql) {
    String attributes = extra == null ? "" : extra;
    assertThat(MysqlCatalog.defaultValue(inCatalog, type, attributes)).isEqualTo(sql);
  }

  @Test
  void quotesInsideExpressionsAreNotEscaped() {
    assertThat(MysqlCatalog.expression("concat(_utf8mb4\\'a\\\\\\'\\',`code`)"))
        .isEqualTo("concat(_utf8mb4'a\\'',`code`)");
    assertThat(MysqlCatalog.check("(`weight` > 0)", "YES")).isEqualTo("(`weight` > 0)");
    assertThat(MysqlCatalog.check("(`code` <> _utf8mb4\\'x\\')", "NO"))
        .isEqualTo("(`code` <> _utf8mb4'x') NOT ENFORCED");
  }

  @Test
  void theAlgorithmOfAViewStandsInItsStatement() {
    assertThat(
            MysqlCatalog.algorithm(
                "CREATE ALGORITHM=MERGE DEFINER=`a`@`%` SQL SECURITY DEFINER VIEW `v` AS select 1"))
        .contains("MERGE");
    assertThat(MysqlCatalog.algorithm("CREATE ALGORITHM=UNDEFINED DEFINER=`a`@`%` VIEW `v` AS"))
        .isEmpty();
  }
}
