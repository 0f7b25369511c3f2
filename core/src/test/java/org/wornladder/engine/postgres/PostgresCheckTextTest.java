package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** A list of values over a varchar, as the server prints it before and after a dump. */
class PostgresCheckTextTest {
  private static final String PRINTED =
      "SELECT pg_get_constraintdef(oid) FROM pg_constraint WHERE conrelid = 'bin'::regclass";

  @TempDir Path root;

  @ParameterizedTest
  @ValueSource(
      strings = {
        "code IN ('a', 'b')",
        "code NOT IN ('a', 'it''s', ')')",
        "code = 'a' OR (code IN ('x', 'y') AND \"Odd (one)\" IN ('p', 'q'))",
        "lower(code) IN ('a', 'b')",
        "code LIKE 'a%'"
      })
  void meansTheSameAndIsWrittenSoThatItIsPrintedTheSame(String check) {
    TestDatabase database = TestDatabase.make(Kind.POSTGRES, root);
    String printed = printed(database, "CHECK (" + check + ")");
    String dumped = printed(database, printed);
    assertThat(PostgresCheckText.canonical(printed)).isEqualTo(PostgresCheckText.canonical(dumped));
    String written = PostgresCheckText.written(printed);
    assertThat(printed(database, written.isEmpty() ? printed : written)).isEqualTo(printed);
    assertThat(PostgresCheckText.written(dumped)).isEmpty();
  }

  private static String printed(TestDatabase database, String constraint) {
    database.execute(
        "DROP TABLE IF EXISTS bin",
        "CREATE TABLE bin (code varchar(10), \"Odd (one)\" varchar, " + constraint + ")");
    return database.query(PRINTED).get(0);
  }

  @Test
  void anExpressionWithoutAListStaysAsItIs() {
    for (String text : List.of("", "CHECK ((a > 0))", "(ARRAY[1, 2])::text[]")) {
      assertThat(PostgresCheckText.canonical(text)).isEqualTo(text);
      assertThat(PostgresCheckText.written(text)).isEmpty();
    }
  }
}
