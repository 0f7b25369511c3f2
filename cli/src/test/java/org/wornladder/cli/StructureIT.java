package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.ResourceLock;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.cli.Workspace.Run;
import org.wornladder.server.MariadbServer;
import org.wornladder.server.PostgresServer;

/** Structures of real servers, through the built program. */
@Order(Integer.MAX_VALUE - 1)
@ResourceLock("database servers")
class StructureIT {
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
    work = new Workspace(folder);
    settings("", "");
    execute(
        url,
        "CREATE TABLE orchard (id int PRIMARY KEY, name varchar(40) NOT NULL)",
        "CREATE TABLE block (id int PRIMARY KEY, orchard_id int)",
        "ALTER TABLE block ADD FOREIGN KEY (orchard_id) REFERENCES orchard (id)",
        "CREATE VIEW labels AS SELECT name FROM orchard");
  }

  private void settings(String ofDev, String more) {
    work.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '%s'%s }\n%s".formatted(url, ofDev, more));
  }

  private static void execute(String url, String... statements) {
    try (Connection connection = DriverManager.getConnection(url);
        Statement sql = connection.createStatement()) {
      for (String statement : statements) {
        sql.execute(statement);
      }
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  private static JsonNode json(Run run) throws IOException {
    return new ObjectMapper().readTree(run.out());
  }

  @ParameterizedTest
  @EnumSource
  void aServersDatabaseIsAdoptedDriftsAndIsMended(Server server) throws Exception {
    on(server);
    JsonNode adopted = json(work.ladder("adopt", "--format", "json").exits(0));
    assertThat(adopted.get("marked").asBoolean()).isTrue();
    assertThat(adopted.get("rung").asText()).isEqualTo("rungs/0001-adopted-structure.sql");
    work.ladder("drift", "--against", "rungs").exits(0).says("as the rungs build it");
    work.ladder("drift", "--against", "schema").exits(0).says("as schema/ declares it");
    execute(url, "ALTER TABLE block ADD fax varchar(20)", "DROP VIEW labels");
    JsonNode drift = json(work.ladder("drift", "--format", "json").exits(1));
    assertThat(drift.get("against").asText()).isEqualTo("expected");
    assertThat(drift.get("structure")).hasSize(2);
    JsonNode mend = json(work.ladder("drift", "--mend", "m.sql", "--format", "json").exits(0));
    for (JsonNode statement : mend.get("statements")) {
      execute(url, statement.asText());
    }
    work.ladder("drift").exits(0);
    execute(url, "ALTER TABLE block ADD fax varchar(20)");
    JsonNode official = json(work.ladder("drift", "--as-rung", "fax", "--format", "json").exits(0));
    assertThat(official.get("made_official").get(0).asText()).isEqualTo("column block.fax");
    work.ladder("drift").exits(0);
    work.ladder("rollback", "--yes").exits(0);
    work.ladder("status").exits(0).says("0002", "1 rung waits");
  }

  @Test
  void ownersAndGrantsAreComparedWhenThatIsAskedFor() {
    on(Server.POSTGRES);
    work.ladder("adopt").exits(0);
    String role = "reader_" + ProcessHandle.current().pid();
    PostgresServer.execute("CREATE ROLE " + role);
    execute(url, "GRANT SELECT ON orchard TO " + role);
    work.ladder("drift").exits(0);
    work.ladder("drift", "--rights")
        .exits(1)
        .says("not expected  grant table orchard to " + role, "rights  SELECT");
    work.ladder("compare", "env:dev", "env:dev", "--rights").exits(0);
    work.ladder("show", "--ddl").exits(0);
  }

  @Test
  void whatAUserMayNotReadIsNamed() {
    on(Server.POSTGRES);
    work.ladder("adopt").exits(0);
    String user = "weak_" + ProcessHandle.current().pid();
    PostgresServer.execute("CREATE ROLE " + user + " LOGIN PASSWORD 'weak'");
    settings(", user: " + user + ", password: weak", "");
    work.ladder("drift").exits(3).complains("the journal may not be read", "GRANT SELECT");
    execute(url, "GRANT SELECT ON ladder_journal, ladder_snapshot, orchard TO " + user);
    work.ladder("show").exits(0).says("block    not readable", "orchard             0");
    work.ladder("drift").exits(0).says("as expected");
    work.ladder("show", "--table", "block").exits(4).complains("permission denied");
    execute(url, "ALTER TABLE orchard ADD COLUMN slope int");
    work.ladder("drift", "--as-rung", "slopes").exits(4).complains("writing the journal");
    assertThat(folder.resolve("rungs")).isDirectoryNotContaining("glob:**0002*");
  }

  @Test
  void whatAUserMayNotSeeIsNoDifference() {
    on(Server.MARIADB);
    execute(
        url,
        "CREATE FUNCTION ripe() RETURNS int DETERMINISTIC RETURN 1",
        "CREATE TRIGGER counted BEFORE INSERT ON orchard FOR EACH ROW SET @counted = 1",
        "CREATE EVENT tidy ON SCHEDULE EVERY 1 DAY DO SET @tidy = 1");
    work.ladder("adopt").exits(0);
    String user = "weak_" + ProcessHandle.current().pid();
    String name = url.replaceFirst(".*/(ladder_test_\\w+).*", "$1");
    MariadbServer.execute("CREATE USER " + user + "@localhost IDENTIFIED BY 'weak'");
    MariadbServer.execute("GRANT SELECT ON " + name + ".* TO " + user + "@localhost");
    String[] hidden = {
      "not readable  view labels",
      "not readable  function ripe",
      "not readable  trigger counted",
      "not readable  event tidy"
    };
    String all = url;
    url = url.replaceFirst("\\?.*", "");
    settings(", user: " + user + ", password: weak", "");
    work.ladder("drift").exits(0).says(hidden).says("as far as this user may see");
    work.ladder("drift", "--format", "markdown").exits(0).says("- not readable: event tidy");
    work.ladder("drift", "--format", "json").exits(0).says("\"event tidy\"");
    work.ladder("drift", "--mend", "m.sql").exits(0).says("0 statements").says(hidden);
    work.ladder("show")
        .exits(0)
        .says("not readable  functions", "triggers, events, other objects: this user may not see");
    work.ladder("show", "--ddl")
        .exits(1)
        .complains("foreign key block (orchard_id)", "not readable  functions");
    work.ladder("compare", "env:dev", "expected:dev")
        .exits(0)
        .says("They are the same, as far as they may be read.");
    work.ladder("drift", "--as-rung", "seen by few")
        .exits(3)
        .complains("there is nothing to make part of the ladder");
    execute(all, "ALTER TABLE orchard ADD COLUMN slope int");
    work.ladder("drift", "--as-rung", "seen by few").exits(4).complains("writing the journal");
    assertThat(folder.resolve("rungs")).isDirectoryNotContaining("glob:**0002*");
    MariadbServer.execute("GRANT INSERT, UPDATE ON " + name + ".* TO " + user + "@localhost");
    work.ladder("drift", "--as-rung", "seen by few").exits(0).says("1 difference").says(hidden);
    work.ladder("drift").exits(0).says(hidden);
  }

  @Test
  void aScratchPlaceIsWantedBesideAGuardedDatabase() {
    on(Server.POSTGRES);
    work.ladder("adopt").exits(0);
    settings(", guarded: true", "");
    work.ladder("drift", "--against", "rungs")
        .exits(3)
        .complains("no scratch database is made on its server", "under scratch: in ladder.yaml");
    settings(", guarded: true", "scratch: { url: '" + PostgresServer.newDatabase() + "' }\n");
    work.ladder("drift", "--against", "rungs").exits(0);
    settings("", "scratch: { url: '" + url + "', may-erase: perhaps }\n");
    assertThat(work.ladder("check").exits(1).out()).contains("ladder.yaml", "may-erase");
  }
}
