package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.LadderException;
import org.wornladder.PullApproval;
import org.wornladder.PullOptions;
import org.wornladder.SeedApproval;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Values of every type, on their way there and back. */
class SeedTypesTest {
  private static final Map<Kind, String> TYPES =
      Map.of(
          Kind.SQLITE,
          "whole integer, price decimal(8,2), far numeric, ripe boolean, picked date, at timestamp,"
              + " picture blob, doc json, real_one real",
          Kind.POSTGRES,
          "whole bigint, price numeric(8,2), far numeric, ripe boolean, picked date, at timestamptz,"
              + " picture bytea, doc jsonb, real_one double precision, tags text[], mark uuid,"
              + " took interval, kind quality",
          Kind.MARIADB,
          "whole bigint, price decimal(8,2), far decimal(30,10), ripe boolean, picked date,"
              + " at datetime(3), picture blob, doc json, real_one double,"
              + " kind enum('good', 'poor'), flags bit(4)",
          Kind.H2,
          "whole bigint, price numeric(8,2), far numeric(30,10), ripe boolean, picked date,"
              + " at timestamp(3) with time zone, picture binary varying, doc json,"
              + " real_one double precision, tags varchar(20) array, mark uuid,"
              + " kind enum('good', 'poor')");

  private static final String ROW =
      "\"id\": 1, \"whole\": 9007199254740993, \"price\": 1.5, \"far\": 12345.678,"
          + " \"ripe\": true, \"picked\": \"2026-02-28\", \"at\": \"2026-08-31T08:30:00.250+02:00\","
          + " \"picture\": \"base64:AAECAw==\", \"doc\": {\"a\": [1, \"x\"]}, \"real_one\": 0.1";

  private static final Map<Kind, String> MORE =
      Map.of(
          Kind.SQLITE,
          "",
          Kind.POSTGRES,
          ", \"tags\": [\"a\", \"b \\\"c\\\"\", null], \"took\": \"PT1H\", \"kind\": \"good\","
              + " \"mark\": \"8d5a1f2e-0f0e-4a5c-9d6e-0123456789ab\"",
          Kind.MARIADB,
          ", \"kind\": \"poor\", \"flags\": 5",
          Kind.H2,
          ", \"tags\": [\"a\", \"b \\\"c\\\"\", null], \"kind\": \"good\","
              + " \"mark\": \"8d5a1f2e-0f0e-4a5c-9d6e-0123456789ab\"");

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    if (kind == Kind.POSTGRES) {
      database.execute("CREATE TYPE quality AS ENUM ('good', 'poor')");
    }
    database.execute(
        "CREATE TABLE sort (id integer NOT NULL PRIMARY KEY, " + TYPES.get(kind) + ")");
    ladder.file(
        "ladder.yaml",
        ladder.text("ladder.yaml") + "seeds: [{ table: sort, rows: seeds/sort.json }]\n");
  }

  private void rows(String... rows) {
    ladder.file("seeds/sort.json", "[\n{" + String.join("},\n{", rows) + "}\n]\n");
  }

  private String seed() {
    return ladder
        .open()
        .seed(
            Optional.of("dev"),
            SeedOptions.ALL,
            SeedApproval.given(Optional.empty()),
            SeedListener.SILENT)
        .results()
        .get(0)
        .counts()
        .text();
  }

  @ParameterizedTest
  @EnumSource
  void goThereAndStayWhatTheyAre(Kind kind) {
    on(kind);
    rows(ROW + MORE.get(kind), "\"id\": 2");
    assertThat(seed()).isEqualTo("2 added");
    assertThat(seed()).isEqualTo("2 unchanged");
    assertThat(database.query("SELECT whole FROM sort ORDER BY id"))
        .containsExactly("9007199254740993", "NULL");
    ladder.file("seeds/sort.json", "[]");
    ladder.delete("seeds/sort.json");
    ladder
        .open()
        .pull(Optional.of("dev"), new PullOptions(List.of("sort"), false), PullApproval.GIVEN);
    String pulled = ladder.text("seeds/sort.json");
    assertThat(pulled.toLowerCase(Locale.ROOT))
        .contains("9007199254740993", "base64:aaecaw==", "12345.678", "null");
    assertThat(seed()).as(pulled).isEqualTo("2 unchanged");
    assertThat(
            ladder
                .open()
                .drift(Optional.of("dev"), org.wornladder.Against.EXPECTED, false)
                .seeds()
                .isClean())
        .isTrue();
  }

  @ParameterizedTest
  @EnumSource
  void aValueThatIsNoneIsToldWithLineAndColumn(Kind kind) {
    on(kind);
    refused("\"whole\": \"many\"", "whole");
    refused("\"whole\": 99999999999999999999", "whole");
    refused("\"price\": 1.555", "price");
    refused("\"picked\": 20260831", "picked");
    refused("\"picked\": \"2026-02-30\"", "picked");
    refused("\"at\": \"soon\"", "at");
    refused("\"ripe\": \"perhaps\"", "ripe");
    if (kind == Kind.POSTGRES || kind == Kind.MARIADB) {
      refused("\"kind\": \"rotten\"", "kind");
    }
    if (kind != Kind.POSTGRES) {
      refused("\"picture\": \"AAEC\"", "picture");
    }
    assertThat(database.query("SELECT count(*) FROM sort")).containsExactly("0");
  }

  private void refused(String value, String column) {
    rows("\"id\": 1", "\"id\": 2, " + value);
    assertThatThrownBy(this::seed)
        .as(value)
        .isInstanceOfSatisfying(
            LadderException.class,
            e -> {
              assertThat(e.where().orElse("")).as(e.what()).startsWith("seeds/sort.json:3");
              assertThat(e.what().toLowerCase(Locale.ROOT)).contains(column);
            });
  }
}
