package org.wornladder.sql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SplitterTest {
  private static final Place START = new Place("rungs/0001-bins.sql", 1, 1);

  @TestFactory
  Stream<DynamicTest> splitsAsTheTableSays() throws IOException {
    return cases().stream()
        .flatMap(
            example ->
                Dialects.ALL.stream()
                    .filter(dialect -> example.isFor(dialect))
                    .map(
                        dialect ->
                            DynamicTest.dynamicTest(
                                dialect.name() + ": " + example.title(),
                                () -> example.check(dialect))));
  }

  private record Case(String dialect, String title, String script, List<String> statements) {
    boolean isFor(Dialect candidate) {
      return dialect.equals("all") || dialect.equals(candidate.name());
    }

    void check(Dialect candidate) {
      assertThat(texts(Splitter.split(script, candidate, START))).isEqualTo(statements);
      String windows = script.replace("\n", "\r\n");
      assertThat(texts(Splitter.split("\uFEFF" + windows, candidate, START)))
          .isEqualTo(statements.stream().map(text -> text.replace("⏎", "\r⏎")).toList());
    }

    private static List<String> texts(List<Statement> statements) {
      return statements.stream().map(statement -> statement.text().replace("\n", "⏎")).toList();
    }
  }

  private static List<Case> cases() throws IOException {
    try (InputStream in = SplitterTest.class.getResourceAsStream("/sql/statements.txt")) {
      String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
      List<Case> cases = new ArrayList<>();
      for (String block : text.split("(?m)^=== ")) {
        if (block.startsWith("#")) {
          continue;
        }
        String[] head = block.substring(0, block.indexOf('\n')).split(" \\| ");
        String[] parts = block.substring(block.indexOf('\n') + 1).split("(?m)^---\n", -1);
        List<String> statements = parts[1].lines().toList();
        cases.add(new Case(head[0], head[1], parts[0], statements));
      }
      assertThat(cases).hasSizeGreaterThan(20);
      return cases;
    }
  }

  @Test
  void everyStatementKnowsWhereItBegins() {
    String script = "\n  SELECT 1;\n\n-- a note\nSELECT\n 2; SELECT 3;";
    List<Statement> statements =
        Splitter.split(script, Dialects.SQLITE, new Place("rungs/0007-bins.sql", 4, 1));
    assertThat(statements)
        .extracting(statement -> statement.place().toString())
        .containsExactly(
            "rungs/0007-bins.sql:5:3", "rungs/0007-bins.sql:8:1", "rungs/0007-bins.sql:9:5");
  }

  @Test
  void rowsOfABulkLoadBelongToIt() {
    String script = "COPY grade (code) FROM stdin;\nit's; one\n\"two\n\\.\nSELECT 1;";
    List<Statement> statements = Splitter.split(script, Dialects.POSTGRES, START);
    assertThat(statements)
        .extracting(Statement::text)
        .containsExactly("COPY grade (code) FROM stdin", "SELECT 1");
    assertThat(statements.get(0).data()).isEqualTo("it's; one\n\"two\n\\.");
    assertThat(statements.get(1).data()).isEmpty();
  }

  @ParameterizedTest
  @CsvSource(
      quoteCharacter = '~',
      value = {
        "sqlite,SELECT 'open,7",
        "sqlite,SELECT 1; /* open,10",
        "sqlite,SELECT [open,7",
        "postgres,SELECT $tag$ open $tog$,7",
        "postgres,SELECT /* a /* b */,7",
        "mariadb,SELECT 'open\\',7",
        "h2,SELECT \"open,7",
        "sqlite,CREATE TRIGGER t AFTER INSERT ON b BEGIN SELECT 1;,0"
      })
  void whatNeverEndsIsToldWhereItOpens(String dialect, String script, int offset) {
    assertThatThrownBy(() -> Splitter.split(script, Dialects.named(dialect).orElseThrow(), START))
        .isInstanceOf(SqlTextException.class)
        .hasMessageContaining("never ended")
        .extracting(e -> ((SqlTextException) e).offset())
        .isEqualTo(offset);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "postgres|SELECT 1;⏎\\i other.sql|\\i is a command of the shell psql|2",
        "postgres|\\set a 1|\\set is a command|1",
        "postgres|SELECT 1 \\g out.txt|\\g with a file is a command|1",
        "postgres|\\.|\\. is a command|1",
        "mariadb|SELECT 1;⏎⏎\\! ls|\\! is a command of the shell mariadb|3",
        "mariadb|source other.sql;|source is a command|1",
        "sqlite|SELECT 1;⏎.read other.sql|.read is a command of the shell sqlite3|2"
      })
  void commandsOfTheShellsAreRefused(String dialect, String script, String message, int line) {
    String text = script.replace("⏎", "\n");
    assertThatThrownBy(() -> Splitter.split(text, Dialects.named(dialect).orElseThrow(), START))
        .isInstanceOf(SqlTextException.class)
        .hasMessageContaining(message)
        .satisfies(
            e ->
                assertThat(START.plus(text, ((SqlTextException) e).offset()).line())
                    .isEqualTo(line));
  }
}
