package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a server before 16 prints, and what later ones do. */
class PostgresViewTextTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "SELECT block.id, block.code FROM block WHERE (block.id > 0)|SELECT id, code FROM block WHERE (id > 0)",
        "SELECT a.code, count(*) AS n FROM a_top a GROUP BY a.code|SELECT code, count(*) AS n FROM a_top a GROUP BY code",
        "SELECT \"Odd one\".id FROM \"Odd one\"|SELECT id FROM \"Odd one\"",
        "SELECT b.id FROM audit.block b|SELECT id FROM audit.block b",
        "SELECT a.id FROM a, b|SELECT a.id FROM a, b",
        "SELECT a.id FROM (a JOIN b ON ((a.id = b.id)))|SELECT a.id FROM (a JOIN b ON ((a.id = b.id)))",
        "SELECT a.id FROM a UNION SELECT b.id FROM b|SELECT a.id FROM a UNION SELECT b.id FROM b",
        "SELECT a.id, (SELECT max(b.n) FROM b WHERE (b.id = a.id)) AS m FROM a|SELECT id, (SELECT max(b.n) FROM b WHERE (b.id = a.id)) AS m FROM a",
        "WITH c AS (SELECT x.n FROM x) SELECT c.n FROM c|WITH c AS (SELECT x.n FROM x) SELECT n FROM c",
        "SELECT ~a.id~ FROM a|SELECT ~a.id~ FROM a",
        "SELECT n.n FROM generate_series(1, 3) n(n)|SELECT n FROM generate_series(1, 3) n(n)",
        "SELECT b.*::b AS b, b.id FROM b|SELECT b.*::b AS b, id FROM b",
        "SELECT 1 AS one|SELECT 1 AS one"
      })
  void isTheSame(String before, String after) {
    String start = "CREATE VIEW v AS\n ";
    assertThat(PostgresViewText.canonical(start + before.replace('~', '\'')))
        .isEqualTo(start + after.replace('~', '\''));
  }
}
