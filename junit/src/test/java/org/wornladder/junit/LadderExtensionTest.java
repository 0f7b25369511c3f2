package org.wornladder.junit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.platform.engine.discovery.DiscoverySelectors.selectClass;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import javax.sql.DataSource;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.platform.testkit.engine.EngineTestKit;
import org.wornladder.TemporaryDatabase;

/** Test classes that use the extension, run as a build runs them. */
class LadderExtensionTest {
  private static final List<String> URLS = new ArrayList<>();

  static List<String> query(DataSource database, String sql) throws SQLException {
    List<String> values = new ArrayList<>();
    try (Connection connection = database.getConnection();
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      while (rows.next()) {
        values.add(rows.getString(1));
      }
    }
    return values;
  }

  private static long succeeded(Class<?> tests) {
    return EngineTestKit.engine("junit-jupiter")
        .selectors(selectClass(tests))
        .execute()
        .testEvents()
        .succeeded()
        .count();
  }

  /** A class with a seeded database. */
  static class Seeded {
    @RegisterExtension
    static final LadderExtension LADDER = LadderExtension.onClassPath("db/ladder");

    @Test
    void hasRowsAndTables(DataSource database) throws SQLException {
      assertThat(query(database, "SELECT code FROM grade ORDER BY code")).containsExactly("A", "B");
      assertThat(query(database, "SELECT code FROM bin")).isEmpty();
    }

    @Test
    void isTheSameForAllTestsOfTheClass(TemporaryDatabase database) {
      URLS.add(database.url());
      assertThat(database.url()).isEqualTo(LADDER.database().url());
    }
  }

  /** A class that has none. */
  static class Bare {
    @RegisterExtension
    static final LadderExtension LADDER =
        LadderExtension.onClassPath("db/ladder").like("app").unseeded();

    @Test
    void hasNoRows(TemporaryDatabase database) throws SQLException {
      URLS.add(database.url());
      assertThat(query(database.dataSource(), "SELECT code FROM grade")).isEmpty();
    }
  }

  @Test
  void eachClassHasADatabaseOfItsOwnThatGoesWithIt() {
    URLS.clear();
    assertThat(succeeded(Seeded.class)).isEqualTo(2);
    assertThat(succeeded(Bare.class)).isOne();
    assertThat(URLS).hasSize(2).doesNotHaveDuplicates();
    for (String url : URLS) {
      Path file =
          Path.of(url.replaceFirst("^jdbc:h2:file:", "").replaceFirst(";.*", "") + ".mv.db");
      assertThat(Files.exists(file)).as(url).isFalse();
    }
  }
}
