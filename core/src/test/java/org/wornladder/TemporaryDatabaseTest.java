package org.wornladder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Databases of their own with all rungs in place, on the engine of an environment. */
class TemporaryDatabaseTest {
  @TempDir Path root;

  private static List<String> query(TemporaryDatabase database, String sql) throws SQLException {
    List<String> values = new ArrayList<>();
    try (Connection connection = database.dataSource().getConnection();
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      while (rows.next()) {
        values.add(rows.getString(1));
      }
    }
    return values;
  }

  @ParameterizedTest
  @EnumSource
  void eachIsMigratedSeededAndGoneWhenItIsClosed(Kind kind) throws SQLException {
    TestDatabase own = TestDatabase.make(kind, root);
    TestLadder project = TestLadder.on(own, root);
    project.rung(
        "0001-grades",
        "CREATE TABLE grade (code char(1) NOT NULL PRIMARY KEY, words varchar(20));",
        "DROP TABLE grade;");
    project.file(
        "standing/seen.sql",
        "--| up\nCREATE VIEW seen AS SELECT code FROM grade;\n--| down\nDROP VIEW seen;\n");
    project.file(
        "ladder.yaml", project.text("ladder.yaml") + "seeds:\n  - { table: grade, key: [code] }\n");
    project.file("seeds/grade.csv", "code,words\nA,first\nB,second\n");
    TemporaryDatabase one = project.open().temporaryDatabase(Optional.of("dev"), true);
    TemporaryDatabase other = project.open().temporaryDatabase(Optional.empty(), false);
    try (one;
        other) {
      assertThat(query(one, "SELECT code FROM seen ORDER BY code")).containsExactly("A", "B");
      assertThat(query(other, "SELECT code FROM seen")).isEmpty();
      assertThat(one.url()).isNotEqualTo(other.url()).startsWith("jdbc:");
    }
    boolean file = kind == Kind.SQLITE || kind == Kind.H2;
    if (file) {
      assertThat(
              Path.of(one.url().replaceFirst("^jdbc:(sqlite|h2:file):", "")).getParent().toFile())
          .satisfies(folder -> assertThat(folder.list()).isNullOrEmpty());
    } else {
      assertThatThrownBy(() -> query(one, "SELECT 1")).isInstanceOf(SQLException.class);
    }
    assertThat(project.open().status(Optional.of("dev")).waiting()).isOne();
  }
}
