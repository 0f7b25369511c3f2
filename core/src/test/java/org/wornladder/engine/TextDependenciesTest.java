package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Dependency;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Table;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;

/** What a text depends on, and what only looks as if it did. */
class TextDependenciesTest {
  private static final List<DatabaseObject> OBJECTS =
      List.of(
          table("bin", "id", "code", "weight"),
          table("grower", "id", "name", "bin"),
          table("odd, one", "id"),
          object(Kind.VIEW, "light"),
          object(Kind.FUNCTION, "tare"),
          object(Kind.SEQUENCE, "ticket"),
          object(Kind.TRIGGER, "first"));

  private static Table table(String name, String... columns) {
    return new Table(
        ObjectId.of(Kind.TABLE, name),
        Stream.of(columns)
            .map(one -> new Column(one, "integer", true, Optional.empty(), Map.of()))
            .toList(),
        Optional.empty(),
        List.of(),
        List.of(),
        List.of(),
        Map.of(),
        "",
        List.of());
  }

  private static DatabaseObject object(Kind kind, String name) {
    return DatabaseObject.of(
        ObjectId.of(kind, name), Map.of("definition", "CREATE"), List.of(), List.of());
  }

  private static List<String> needed(Dialect dialect, String text, Optional<String> table) {
    return new TextDependencies(dialect, OBJECTS)
        .of(text, table).stream().map(TextDependenciesTest::words).sorted().distinct().toList();
  }

  private static String words(Dependency one) {
    return one.target().name() + (one.column().isEmpty() ? "" : "." + one.column());
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "SELECT b.code FROM bin b|bin bin.code",
        "SELECT code FROM bin|bin bin.code",
        "SELECT B.CODE FROM BIN AS B|bin bin.code",
        "SELECT 'grower' AS grower, id AS light FROM bin|bin bin.id",
        "SELECT \"bin\".\"code\" FROM \"bin\"|bin bin.code",
        "SELECT g.name FROM bin b, grower g|bin grower grower.name",
        "SELECT g.bin FROM grower g|grower grower.bin",
        "SELECT bin FROM grower|grower grower.bin",
        "SELECT x.id FROM (SELECT id FROM bin) x JOIN light ON light.id = x.id|bin bin.id light",
        "WITH light AS (SELECT id FROM bin) SELECT id FROM light|bin bin.id",
        "WITH RECURSIVE light (n) AS (SELECT 1) SELECT n FROM light|",
        "SELECT 1 FROM bin WHERE EXISTS (SELECT 1 FROM grower WHERE grower.id = bin.id)|bin bin.id grower grower.id",
        "SELECT tare(b.weight) FROM bin b|bin bin.weight tare",
        "SELECT tare FROM bin b|bin",
        "SELECT nextval(ticket)|ticket",
        "SELECT NEXT VALUE FOR ticket|ticket",
        "SELECT ticket FROM bin|bin",
        "SELECT id FROM \"odd, one\"|odd, one odd, one.id",
        "SELECT 1 -- FROM grower|",
        "SELECT 1 /* FROM grower */ FROM bin|bin",
        "INSERT INTO grower (name) SELECT code FROM bin|bin bin.code grower grower.name",
        "UPDATE bin SET code = 1|bin bin.code"
      })
  void namesWhatStandsWhereATableCanStand(String text, String expected) {
    String found = String.join(" ", needed(Dialects.SQLITE, text, Optional.empty()));
    assertThat(found).isEqualTo(expected == null ? "" : expected);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "SELECT `b`.`code` AS `light` FROM `bin` `b`|bin bin.code",
        "SELECT `bin`.`code` FROM (`bin` JOIN `grower` ON (`grower`.`id` = `bin`.`id`))|bin bin.code bin.id grower grower.id",
        "CREATE TRIGGER a BEFORE INSERT ON bin FOR EACH ROW FOLLOWS `first` SET NEW.code = 1|bin.code first"
      })
  void namesInBackQuotesAreNames(String text, String expected) {
    assertThat(String.join(" ", needed(Dialects.MARIADB, text, Optional.of("bin"))))
        .isEqualTo(expected);
  }
}
