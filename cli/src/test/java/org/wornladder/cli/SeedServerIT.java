package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.ResourceLock;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.server.MariadbServer;
import org.wornladder.server.PostgresServer;

/** Seeds and fresh starts of the built program on real servers. */
@Order(Integer.MAX_VALUE)
@ResourceLock("database servers")
class SeedServerIT {
  /** The servers. */
  enum Server {
    POSTGRES,
    MARIADB
  }

  @TempDir Path folder;
  private String url;
  private Workspace work;

  private void on(Server server) {
    url = server == Server.POSTGRES ? PostgresServer.newDatabase() : MariadbServer.newDatabase();
    String number =
        server == Server.POSTGRES
            ? "integer GENERATED ALWAYS AS IDENTITY"
            : "integer NOT NULL AUTO_INCREMENT";
    work =
        new Workspace(folder)
            .rung(
                "0001-grades",
                "CREATE TABLE grade (code varchar(8) NOT NULL PRIMARY KEY, name varchar(40) NOT"
                    + " NULL, low integer CHECK (low >= 0), since date);",
                "DROP TABLE grade;")
            .rung(
                "0002-varieties",
                "CREATE TABLE variety (id "
                    + number
                    + " PRIMARY KEY, name varchar(40) NOT NULL UNIQUE, grade_code varchar(8) NOT"
                    + " NULL, FOREIGN KEY (grade_code) REFERENCES grade (code));",
                "DROP TABLE variety;")
            .file("seeds/grade.csv", "code,name,low,since\nA,First,70,2026-01-01\nB,Second,,\n")
            .file(
                "seeds/variety.yaml",
                "- { name: Keeper, grade.name: First }\n- { name: Mill, grade.name: Second }\n");
    settings(
        ", disposable: true", "{ table: grade, extra: delete }, { table: variety, key: [name] }");
  }

  private void settings(String more, String seeds) {
    work.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + url
            + "'"
            + more
            + " }\nseeds: ["
            + seeds
            + "]\n");
  }

  private List<String> query(String sql) {
    try (Connection connection = DriverManager.getConnection(url);
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      List<String> values = new ArrayList<>();
      while (rows.next()) {
        values.add(String.valueOf(rows.getString(1)));
      }
      return values;
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  private void execute(String sql) {
    try (Connection connection = DriverManager.getConnection(url);
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  private void manyGrades(int count) throws IOException {
    try (BufferedWriter rows = Files.newBufferedWriter(folder.resolve("seeds/grade.csv"))) {
      rows.write("code,name,low,since\n");
      for (int i = 0; i < count; i++) {
        rows.write("g" + i + ",grade " + i + "," + i + ",2026-08-" + (10 + i % 20) + "\n");
      }
    }
  }

  @ParameterizedTest
  @EnumSource
  void rungsAndRowsAndBackToTheStart(Server server) {
    on(server);
    work.ladder("apply", "--seed")
        .exits(0)
        .says("dev is at 0002.", "grade    2 added", "variety  2 added");
    assertThat(query("SELECT name FROM variety WHERE grade_code = 'B'")).containsExactly("Mill");
    work.ladder("apply", "--seed").exits(0).says("Nothing waits.", "Nothing changed.");
    work.ladder("drift").exits(0).says("the rows are what the files say");
    execute("UPDATE grade SET low = 1, since = '2020-02-02' WHERE code = 'A'");
    work.ladder("seed", "--dry-run")
        .exits(0)
        .says("low    1 → 70", "since  2020-02-02 → 2026-01-01");
    work.ladder("drift").exits(1).says("grade  1 different");
    work.ladder("rebuild", "--yes").exits(0).says("dev was emptied.", "variety  2 added");
    work.ladder("history").exits(0).says("emptied", "2 tables", "seeded", "each following");
    assertThat(query("SELECT low FROM grade WHERE code = 'A'")).containsExactly("70");
  }

  @ParameterizedTest
  @EnumSource
  void aValueOrARowThatIsRefusedIsToldWithItsLine(Server server) throws IOException {
    on(server);
    work.ladder("apply").exits(0);
    manyGrades(70_010);
    String rows = work.text("seeds/grade.csv");
    work.file("seeds/grade.csv", rows.replace("g70001,grade 70001,70001,", "g70001,x,70001,"));
    work.file("seeds/grade.csv", rows.replace("grade 70001,70001,", "grade 70001,"));
    work.ladder("seed", "--only", "grade")
        .exits(2)
        .complains("this line has 3 fields, and the header names 4", "seeds/grade.csv:70003");
    work.file("seeds/grade.csv", rows.replace("grade 70001,70001,", "grade 70001,many,"));
    work.ladder("seed", "--only", "grade")
        .exits(2)
        .complains("column low", "seeds/grade.csv:70003");
    work.file("seeds/grade.csv", rows.replace("grade 70001,70001,", "grade 70001,-7,"));
    work.ladder("seed", "--only", "grade")
        .exits(5)
        .complains("grade failed on dev", "seeds/grade.csv:70003", "Nothing was written");
    work.file("seeds/grade.csv", rows.replace("70001,2026-08-11", "70001,20260811"));
    work.ladder("seed", "--only", "grade")
        .exits(2)
        .complains("column since", "seeds/grade.csv:70003");
    assertThat(query("SELECT count(*) FROM grade")).containsExactly("0");
  }

  @ParameterizedTest
  @EnumSource
  void whoIsKilledInTheMiddleLeavesNothingAndTheNextOneGoesOn(Server server) throws Exception {
    on(server);
    work.ladder("apply").exits(0);
    settings(", disposable: true", "{ table: grade }");
    manyGrades(400_000);
    for (int pause : new int[] {900, 1800, 2700}) {
      Process seeding = work.start("seed");
      TimeUnit.MILLISECONDS.sleep(pause);
      seeding.destroyForcibly();
      assertThat(seeding.waitFor(30, TimeUnit.SECONDS)).isTrue();
      String count = query("SELECT count(*) FROM grade").get(0);
      assertThat(count).as("after " + pause + " ms").isIn("0", "400000");
    }
    work.ladder("seed", "--lock-wait", "60").exits(0);
    assertThat(query("SELECT count(*) FROM grade")).containsExactly("400000");
    work.ladder("seed").exits(0).says("400000 unchanged", "Nothing changed.");
    work.ladder("history").exits(0).says("each following from the one before");
  }

  @Test
  void aServersDatabaseOfSomebodyElseWantsItsName() {
    on(Server.POSTGRES);
    execute("CREATE TABLE legacy_fax (id integer)");
    String name = query("SELECT current_database()").get(0);
    work.ladder("rebuild", "--yes").exits(3).complains(name + " holds 1 table, and no journal");
    work.ladder("rebuild", "--confirm", "other").exits(3).complains("but the database is " + name);
    work.ladder("rebuild", "--confirm", name).exits(0).says("dev was emptied. dev is at");
  }
}
