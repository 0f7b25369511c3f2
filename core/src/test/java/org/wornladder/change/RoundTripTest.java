package org.wornladder.change;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.engine.Access;
import org.wornladder.engine.Session;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Facts;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.server.TestSession;
import org.wornladder.sql.Place;
import org.wornladder.sql.Splitter;
import org.wornladder.sql.Statement;

/** A structure that was read, written as SQL, run on an empty database and read again is equal. */
class RoundTripTest {
  @TempDir Path root;

  @ParameterizedTest
  @EnumSource
  void oddThingsAreWrittenAsTheyAre(Kind kind) throws Exception {
    TestDatabase first = TestDatabase.make(kind, Files.createDirectories(root.resolve("first")));
    run(first, script(first, "odd"));
    whatIsWrittenMakesWhatWasRead(kind, first);
  }

  @ParameterizedTest
  @EnumSource
  void aLargeStructureIsWrittenInAnOrderThatRuns(Kind kind) throws Exception {
    TestDatabase first = TestDatabase.make(kind, Files.createDirectories(root.resolve("first")));
    run(first, LargeStructure.of(kind));
    whatIsWrittenMakesWhatWasRead(kind, first);
  }

  private void whatIsWrittenMakesWhatWasRead(Kind kind, TestDatabase first) throws Exception {
    TestDatabase second = TestDatabase.make(kind, Files.createDirectories(root.resolve("second")));
    Snapshot read;
    try (Session session = TestSession.open(first, root, Access.READ)) {
      read = session.structure(List.of()).snapshot();
      CreationScript script = CreationScript.of(read.objects(), session.ddl());
      assertThat(script.leftOut()).isEmpty();
      run(second, script.statements());
    }
    try (Session session = TestSession.open(second, root, Access.READ)) {
      Schema kept = session.structureWithFingerprint(List.of());
      assertThat(kept.catalogFingerprint()).isEqualTo(session.catalogFingerprint(List.of()));
      assertThat(kept.catalogFingerprint().isPresent()).isEqualTo(kind == Kind.POSTGRES);
      Snapshot again = kept.snapshot();
      assertThat(Differences.between(read, again)).isEmpty();
      assertThat(again.meaningFingerprint()).isEqualTo(read.meaningFingerprint());
      isKeptAsItIs(again);
      // H2's own names depend on what was made before; elsewhere a later statement may use them.
      if (kind != Kind.H2) {
        assertThat(namesOfTheUnnamed(again)).isEqualTo(namesOfTheUnnamed(read));
      }
    }
  }

  private static void isKeptAsItIs(Snapshot snapshot) {
    Snapshot read = Snapshot.read(snapshot.json()).orElseThrow();
    for (int i = 0; i < snapshot.objects().size(); i++) {
      DatabaseObject one = snapshot.objects().get(i);
      assertThat(read.objects().get(i).storedParts()).containsExactlyElementsOf(one.storedParts());
      assertThat(read.objects().get(i)).isEqualTo(one);
    }
    assertThat(read).isEqualTo(snapshot);
  }

  private static List<String> namesOfTheUnnamed(Snapshot snapshot) {
    return snapshot.objects().stream()
        .flatMap(table -> table.parts().stream())
        .flatMap(part -> part.fact(Facts.GENERATED_NAME).stream())
        .sorted()
        .toList();
  }

  private static List<String> script(TestDatabase database, String name) throws IOException {
    String file = "/structures/" + database.engine().name() + "-" + name + ".sql";
    try (InputStream in = RoundTripTest.class.getResourceAsStream(file)) {
      String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
      return Splitter.split(text, database.engine().dialect(), Place.of(file)).stream()
          .map(Statement::text)
          .toList();
    }
  }

  private static void run(TestDatabase database, List<String> statements) throws SQLException {
    try (Connection connection = database.connect();
        java.sql.Statement sql = connection.createStatement()) {
      sql.setEscapeProcessing(false);
      for (String statement : statements) {
        try {
          sql.execute(statement);
        } catch (SQLException e) {
          throw new SQLException(e.getMessage() + " in\n" + statement, e);
        }
      }
    }
  }
}
