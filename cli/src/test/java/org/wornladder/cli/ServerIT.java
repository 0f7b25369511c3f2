package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.ResourceLock;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.server.CuttingProxy;
import org.wornladder.server.MariadbServer;
import org.wornladder.server.PostgresServer;

/** The built program on real servers. */
@Order(1)
@ResourceLock("database servers")
class ServerIT {
  private static final String PASSWORD = "hush-4711";

  /** The servers. */
  enum Server {
    POSTGRES,
    MARIADB
  }

  @TempDir Path folder;

  private Server server;
  private String url;
  private Workspace work;

  private void on(Server kind) {
    server = kind;
    url = kind == Server.POSTGRES ? PostgresServer.newDatabase() : MariadbServer.newDatabase();
    work = new Workspace(folder);
    settings("");
  }

  private void settings(String more) {
    work.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + url
            + "', disposable: true"
            + more
            + " }\n");
  }

  private String place() {
    return url.replaceFirst(".*//", "").replaceFirst("\\?.*", "");
  }

  private int port() {
    return Integer.parseInt(url.replaceFirst(".*//[^/:]+:(\\d+)/.*", "$1"));
  }

  private String database() {
    return place().replaceFirst(".*/", "");
  }

  private String uri(String user, String port) {
    String scheme = server == Server.POSTGRES ? "postgres://" : "mariadb://";
    return scheme + user + "localhost:" + port + "/" + database();
  }

  private void execute(String... statements) {
    try (Connection connection = DriverManager.getConnection(url);
        Statement sql = connection.createStatement()) {
      for (String statement : statements) {
        sql.execute(statement);
      }
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  private List<String> query(String query) {
    List<String> values = new ArrayList<>();
    try (Connection connection = DriverManager.getConnection(url);
        Statement sql = connection.createStatement();
        ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        values.add(rows.getString(1));
      }
      return values;
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  @ParameterizedTest
  @EnumSource
  void aDayOnAServer(Server kind) {
    on(kind);
    work.tables(2);
    work.ladder("check").exits(0);
    work.ladder("preview").exits(0).says("CREATE TABLE bin_1", place());
    work.ladder("apply").exits(0).says("dev is at 0002", "2 tables and 2 columns added");
    work.ladder("status").exits(0).says("0002", "in place", "Nothing waits");
    work.ladder("show").exits(0).says("bin_1", "bin_2");
    work.ladder("show", "--table", "bin_1").exits(0).says("PRIMARY KEY");
    work.ladder("rollback").exits(0).says("dev is at 0001");
    work.ladder("history").exits(0).says("rolled back", "each following from the one before");
    work.rung(
        "0002-bin-2",
        "CREATE TABLE bin_2 (id integer);\nINSERT INTO nowhere VALUES (1);",
        "DROP TABLE bin_2;");
    work.ladder("apply").exits(5).complains("rungs/0002-bin-2.sql:3:1", "nowhere");
    work.ladder("rollback", "--to", "1").exits(0);
    assertThat(query("SELECT count(*) FROM bin_1")).containsExactly("1");
    work.ladder("check", "--against", "dev").exits(0);
  }

  @ParameterizedTest
  @EnumSource
  void aServerThatCannotBeReachedIsToldAtOnceAndWithoutTheSecret(Server kind) throws Exception {
    on(kind);
    String user = kind == Server.POSTGRES ? "no_such_user" : "ladder_test";
    try (ServerSocket silent = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
      work.file(
          "ladder.yaml",
          """
          name: hollowfield
          environments:
            dev: { url: "%s" }
            missing: { url: "%s" }
            nohost: { url: "%s" }
            refused: { url: "%s" }
            silent: { url: "%s" }
          """
              .formatted(
                  uri(user + ":" + PASSWORD + "@", Integer.toString(port())),
                  url.replace(database(), "no_such_database").replace("\"", ""),
                  uri(user + ":" + PASSWORD + "@", "1")
                      .replace("localhost", "no-such-host.invalid"),
                  uri(user + ":" + PASSWORD + "@", "1"),
                  uri(user + ":" + PASSWORD + "@", Integer.toString(silent.getLocalPort()))));
      work.ladder("status", "missing", "--await", "30").exits(4).complains("no such database");
      if (kind == Server.MARIADB) {
        work.ladder("status", "--await", "30")
            .exits(4)
            .complains("refuses the user or the password");
        work.ladder("status", "--verbose").exits(4);
      }
      work.ladder("status", "nohost").exits(4).complains("no such host", "--await SECONDS");
      work.ladder("status", "refused").exits(4).complains("connection refused", "localhost:1/");
      work.ladder("status", "silent").exits(4).complains("cannot be reached");
      work.ladder("check").exits(0).says("a password is written here for everyone");
    }
  }

  @ParameterizedTest
  @EnumSource
  void aCertificateThatIsMissingIsNotWaitedFor(Server kind) {
    on(kind);
    String certificate =
        kind == Server.POSTGRES
            ? "sslmode=verify-full&sslrootcert=no-such.pem"
            : "sslMode=verify-full&serverSslCert=no-such.pem";
    url += (url.contains("?") ? "&" : "?") + certificate;
    settings("");
    work.ladder("status", "--await", "60").exits(4).complains("the database cannot be opened");
  }

  @Test
  void aUrlWithoutAUserMeansTheSystemsAndOneOfNonsenseIsToldAsSuch() {
    on(Server.POSTGRES);
    work.file(
        "ladder.yaml",
        """
        name: hollowfield
        environments:
          nobody: { url: "%s" }
          nonsense: { url: "%s" }
          several: { url: "%s" }
        """
            .formatted(
                uri("", Integer.toString(port())),
                uri("", "many"),
                url.replace("localhost:", "localhost:1,localhost:")));
    work.ladder("status", "nobody").exits(4).complains("refuses the user or the password");
    Workspace.Run nonsense = work.ladder("status", "nonsense");
    nonsense.exits(4).complains("the url is not one of PostgreSQL's", "see the url of nonsense");
    assertThat(nonsense.err()).doesNotContain("WARNING");
    work.ladder("status", "several").exits(0);
  }

  @ParameterizedTest
  @EnumSource
  void aServerThatIsStillStartingIsWaitedFor(Server kind) throws Exception {
    on(kind);
    int free;
    try (ServerSocket socket = new ServerSocket(0)) {
      free = socket.getLocalPort();
    }
    String port = Integer.toString(port());
    url = url.replace(":" + port + "/", ":" + free + "/");
    settings("");
    CompletableFuture<Workspace.Run> status =
        CompletableFuture.supplyAsync(() -> work.ladder("status", "--await", "60"));
    Thread.sleep(2000);
    try (CuttingProxy proxy = new CuttingProxy(Integer.parseInt(port), free)) {
      status.get(60, TimeUnit.SECONDS).exits(0).complains("waiting for localhost:" + proxy.port());
    }
  }

  @ParameterizedTest
  @EnumSource
  void whoMayNotMakeTablesIsToldSo(Server kind) {
    on(kind);
    String user = "reader_" + Long.toString(System.nanoTime(), 36);
    if (kind == Server.POSTGRES) {
      execute(
          "CREATE USER " + user + " PASSWORD '" + PASSWORD + "'",
          "REVOKE CREATE ON SCHEMA public FROM PUBLIC");
    } else {
      execute(
          "CREATE USER " + user + "@localhost IDENTIFIED BY '" + PASSWORD + "'",
          "GRANT SELECT ON " + database() + ".* TO " + user + "@localhost");
    }
    work.tables(1).variable("PW", PASSWORD);
    work.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + uri("", Integer.toString(port()))
            + "', user: "
            + user
            + ", password: '${PW}' }\n");
    Workspace.Run run = work.ladder("apply");
    assertThat(run.code()).isIn(4, 5);
    run.complains("denied", "grant");
    work.ladder("status").exits(0);
  }

  @ParameterizedTest
  @EnumSource
  void aReadOnlyServerIsRefusedBeforeAnythingRuns(Server kind) {
    on(kind);
    work.tables(1);
    boolean postgres = kind == Server.POSTGRES;
    execute(
        postgres
            ? "ALTER DATABASE " + database() + " SET default_transaction_read_only = on"
            : "SET GLOBAL read_only = 1");
    try {
      work.ladder("apply").exits(4).complains("the server takes no changes", "primary");
      work.ladder("status").exits(0);
    } finally {
      if (!postgres) {
        execute("SET GLOBAL read_only = 0");
      }
    }
  }

  @ParameterizedTest
  @EnumSource
  void aLockThatIsNotHadInTimeIsGivenUpAndCanBeTriedAgain(Server kind) throws Exception {
    on(kind);
    work.tables(1);
    work.ladder("apply").exits(0);
    work.rung(
        "0002-wide",
        "ALTER TABLE bin_1 ADD COLUMN width integer;",
        "ALTER TABLE bin_1 DROP COLUMN width;");
    settings(", lock-timeout: 1s");
    try (Connection other = DriverManager.getConnection(url);
        Statement sql = other.createStatement()) {
      other.setAutoCommit(false);
      sql.execute("INSERT INTO bin_1 VALUES (77)");
      work.ladder("apply").exits(5).complains("0002", "--retries N");
      CompletableFuture<Workspace.Run> patient =
          CompletableFuture.supplyAsync(() -> work.ladder("apply", "--retries", "20"));
      Thread.sleep(3500);
      other.commit();
      patient.get(60, TimeUnit.SECONDS).exits(0).complains("trying again");
    }
    assertThat(query("SELECT count(width) FROM bin_1")).containsExactly("0");
  }

  @Test
  void anIndexThatAnAttemptLeftHalfMadeIsDroppedBeforeTheNextOne() throws Exception {
    on(Server.POSTGRES);
    work.rung("0001-bins", "CREATE TABLE bin_1 (id integer);", "DROP TABLE bin_1;");
    work.ladder("apply").exits(0);
    work.file(
        "rungs/0002-index.sql",
        """
        --| run: outside-transaction
        --| up
        CREATE UNIQUE INDEX CONCURRENTLY bin_1_id ON bin_1 (id);
        --| down
        DROP INDEX CONCURRENTLY bin_1_id;
        """);
    execute("INSERT INTO bin_1 VALUES (7), (7)");
    String valid = "SELECT indisvalid FROM pg_index WHERE indexrelid = to_regclass('bin_1_id')";
    // What somebody else left stays where it is.
    String byHand = "CREATE UNIQUE INDEX CONCURRENTLY bin_1_id ON bin_1 (id)";
    assertThatThrownBy(() -> execute(byHand)).hasMessageContaining("could not create");
    work.ladder("apply").exits(5).complains("already exists");
    work.ladder("apply").exits(5).complains("already exists");
    execute("DROP INDEX bin_1_id");
    work.ladder("apply").exits(5).complains("index bin_1_id, half made, was dropped");
    assertThat(query(valid)).isEmpty();
    execute("DELETE FROM bin_1");
    settings(", lock-timeout: 1s");
    try (Connection other = DriverManager.getConnection(url);
        Statement sql = other.createStatement()) {
      other.setAutoCommit(false);
      sql.execute("INSERT INTO bin_1 VALUES (8)");
      work.ladder("apply").exits(5).complains("bin_1_id is there half made", "--retries N");
      assertThat(query(valid)).containsExactly("f");
      CompletableFuture<Workspace.Run> patient =
          CompletableFuture.supplyAsync(() -> work.ladder("apply", "--retries", "20"));
      Thread.sleep(3000);
      other.commit();
      patient.get(60, TimeUnit.SECONDS).exits(0).complains("trying again");
    }
    assertThat(query(valid)).containsExactly("t");
  }

  @Test
  void aRungWhoseFirstStatementFailedRunsFromItsMendedFile() {
    on(Server.MARIADB);
    work.rung("0001-bins", "CREATE TABLE bin (id intger);\nCREATE TABLE tote (id integer);", "");
    work.ladder("apply").exits(5).complains("no statement of it was done");
    work.ladder("status").exits(0).says("no statement of it is done");
    work.rung("0001-bins", "CREATE TABLE bin (id integer);\nCREATE TABLE tote (id intger);", "");
    String settle = "ladder settle dev 0001 --accept-file";
    work.ladder("apply").exits(5).complains("1 statement of it is done", settle);
    work.rung("0001-bins", "CREATE TABLE bin (id integer);\nCREATE TABLE tote (id integer);", "");
    work.ladder("apply").exits(3).complains(settle);
    work.ladder("settle", "dev", "1", "--accept-file", "--because", "a slip").exits(0);
    work.ladder("apply").exits(0).says("dev is at 0001");
  }

  @ParameterizedTest
  @EnumSource
  void aDeadlockIsTriedAgain(Server kind) throws Exception {
    on(kind);
    execute(
        "CREATE TABLE a (id integer)",
        "CREATE TABLE b (id integer)",
        "INSERT INTO a VALUES (1)",
        "INSERT INTO b VALUES (1)");
    String sleep = kind == Server.POSTGRES ? "SELECT pg_sleep(2);" : "SELECT sleep(2);";
    work.rung(
        "0001-both",
        "UPDATE a SET id = id + 1;\n" + sleep + "\nUPDATE b SET id = id + 1;",
        "SELECT 1;");
    try (Connection other = DriverManager.getConnection(url);
        Statement sql = other.createStatement()) {
      other.setAutoCommit(false);
      sql.execute("UPDATE b SET id = id + 10");
      CompletableFuture<Workspace.Run> apply =
          CompletableFuture.supplyAsync(() -> work.ladder("apply", "--retries", "9"));
      Thread.sleep(1500);
      try {
        sql.execute("UPDATE a SET id = id + 10");
        other.commit();
      } catch (SQLException e) {
        // The database chose this one to give way.
        other.rollback();
      }
      apply.get(60, TimeUnit.SECONDS).exits(0);
    }
    assertThat(query("SELECT id % 10 FROM a")).containsExactly("2");
    assertThat(query("SELECT id % 10 FROM b")).containsExactly("2");
  }

  @ParameterizedTest
  @EnumSource
  void aStatementThatTakesTooLongIsStopped(Server kind) {
    on(kind);
    settings(", statement-timeout: 1s");
    String sleep =
        kind == Server.POSTGRES
            ? "SELECT pg_sleep(30);"
            : "SELECT count(*) FROM seq_1_to_100000 a, seq_1_to_100000 b;";
    work.rung("0001-slow", sleep, "SELECT 1;");
    work.ladder("apply").exits(5).complains("longer than statement-timeout allows");
  }

  @ParameterizedTest
  @EnumSource
  void aRungThatLeavesItsSchemaDoesNotTakeTheJournalAlong(Server kind) {
    on(kind);
    String other = database() + "_other";
    String leave = kind == Server.POSTGRES ? "SET search_path TO " : "USE ";
    execute((kind == Server.POSTGRES ? "CREATE SCHEMA " : "CREATE DATABASE ") + other);
    work.rung(
        "0001-leave",
        leave + other + ";\nCREATE TABLE far (id integer);",
        "DROP TABLE " + other + ".far;");
    work.rung("0002-near", "CREATE TABLE near (id integer);", "DROP TABLE near;");
    work.ladder("apply").exits(0);
    assertThat(query("SELECT count(*) FROM " + other + ".far")).containsExactly("0");
    assertThat(query("SELECT count(*) FROM near")).containsExactly("0");
    assertThat(query("SELECT max(rung) FROM ladder_journal")).containsExactly("2");
    work.ladder("rollback", "--to", "0").exits(0);
  }

  @ParameterizedTest
  @EnumSource
  void bodiesWithSemicolonsStayWhole(Server kind) {
    on(kind);
    work.tables(1);
    if (kind == Server.POSTGRES) {
      work.rung(
          "0002-routines",
          """
          CREATE FUNCTION weigh() RETURNS trigger LANGUAGE plpgsql AS $body$
          BEGIN
            NEW.id := NEW.id + 1; RETURN NEW;
          END; $body$;
          CREATE FUNCTION twice(n integer) RETURNS integer LANGUAGE sql BEGIN ATOMIC SELECT n * 2; END;
          CREATE TRIGGER weighed BEFORE INSERT ON bin_1 FOR EACH ROW EXECUTE FUNCTION weigh();
          DO $$ BEGIN PERFORM twice(2); INSERT INTO bin_1 VALUES (40); END $$;
          COPY bin_1 (id) FROM stdin;
          50
          60
          \\.
          """,
          "DROP TRIGGER weighed ON bin_1;\nDROP FUNCTION weigh();\nDROP FUNCTION twice(integer);");
    } else {
      work.rung(
          "0002-routines",
          """
          DELIMITER //
          CREATE PROCEDURE fill(IN n integer)
          BEGIN
            DECLARE i integer DEFAULT 0;
            WHILE i < n DO
              INSERT INTO bin_1 VALUES (40 + i); SET i = i + 10;
            END WHILE;
          END//
          DELIMITER ;
          CREATE TRIGGER weighed BEFORE INSERT ON bin_1 FOR EACH ROW BEGIN SET NEW.id = NEW.id + 1; END;
          CREATE EVENT weekly ON SCHEDULE EVERY 1 WEEK DO BEGIN DELETE FROM bin_1; END;
          CALL fill(30);
          """,
          "DROP EVENT weekly;\nDROP TRIGGER weighed;\nDROP PROCEDURE fill;");
    }
    work.ladder("apply").exits(0);
    assertThat(query("SELECT id FROM bin_1 ORDER BY id")).containsExactly("1", "41", "51", "61");
    work.ladder("rollback").exits(0);
  }

  @ParameterizedTest
  @EnumSource
  void ofTwentyThatApplyAtOnceEachRungRunsOnce(Server kind) throws Exception {
    on(kind);
    work.tables(10);
    List<Process> crowd = new ArrayList<>();
    for (int i = 0; i < 20; i++) {
      crowd.add(work.start("apply"));
    }
    for (Process process : crowd) {
      assertThat(process.waitFor(120, TimeUnit.SECONDS)).isTrue();
      assertThat(process.exitValue()).isZero();
    }
    assertThat(query("SELECT count(*) FROM ladder_journal WHERE event = 'applied'"))
        .containsExactly("10");
  }

  @ParameterizedTest
  @EnumSource
  void whoWaitsIsToldWhoHoldsTheLock(Server kind) throws Exception {
    on(kind);
    String sleep = kind == Server.POSTGRES ? "SELECT pg_sleep(4)" : "SELECT sleep(4)";
    work.rung("0001-slow", sleep + ";\nCREATE TABLE slow (id integer);", "DROP TABLE slow;");
    Process first = work.start("apply");
    String holder =
        kind == Server.POSTGRES
            ? "SELECT count(*) FROM pg_locks WHERE locktype = 'advisory'"
            : "SELECT is_used_lock('ladder " + database() + "') IS NOT NULL";
    while (query(holder).equals(List.of("0"))) {
      Thread.sleep(20);
    }
    work.ladder("apply", "--lock-wait", "0")
        .exits(4)
        .complains(
            "another process is changing this database",
            kind == Server.POSTGRES ? "backend" : "connection");
    assertThat(first.waitFor(60, TimeUnit.SECONDS)).isTrue();
    work.ladder("apply").exits(0).says("Nothing waits");
  }

  @Test
  void whatTheFactsDoNotTellAPersonSettlesOnTheRecord() {
    on(Server.MARIADB);
    work.rung(
        "0001-rename",
        "CREATE TABLE crate (id integer);\nRENAME TABLE crate TO bin;\nINSERT INTO bin VALUES (1);",
        "DROP TABLE bin;");
    work.ladder("apply").exits(0);
    // As a kill between the two entries of the second statement leaves it.
    execute(
        "DELETE FROM ladder_journal WHERE number > 4",
        "UPDATE ladder_snapshot SET entry = 4, fingerprint ="
            + " (SELECT hash FROM ladder_journal WHERE number = 4) WHERE number = 0",
        "DELETE FROM bin");
    work.ladder("status").exits(0).says("stuck", "statement 2 in doubt");
    work.ladder("apply")
        .exits(3)
        .complains(
            "nobody knows whether statement 2 took effect", "settle dev 0001 --done", "--not-done");
    work.ladder("settle", "dev", "1", "--done", "--because", "bin is there").exits(0);
    work.ladder("apply").exits(0).says("dev is at 0001");
    work.ladder("history").exits(0).says("settled done", "bin is there");
    assertThat(query("SELECT count(*) FROM bin")).containsExactly("1");
  }

  @Test
  void oneProjectServesAnEmbeddedEngineAndAServer() {
    on(Server.POSTGRES);
    work.file("data/keep", "");
    work.file(
        "ladder.yaml",
        "name: hollowfield\ndefault: dev\nenvironments:\n  dev: { url: jdbc:sqlite:data/dev.db, disposable: true }\n  test: { url: '"
            + url
            + "' }\n");
    work.file(
        "rungs/0001-bins.sql",
        """
        --| up on sqlite
        CREATE TABLE bin (id integer PRIMARY KEY, packed text DEFAULT CURRENT_TIMESTAMP);
        --| up on postgres
        CREATE TABLE bin (id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY, packed timestamptz DEFAULT now());
        --| down
        DROP TABLE bin;
        """);
    work.ladder("check").exits(0);
    work.ladder("apply").exits(0);
    work.ladder("apply", "test").exits(0);
    assertThat(query("SELECT count(*) FROM bin")).containsExactly("0");
    work.ladder("rollback", "test", "--yes").exits(0);
  }

  @Test
  void whatIsMadeBelongsToTheRoleAndStandsInTheSchema() {
    on(Server.POSTGRES);
    String role = "owner_" + Long.toString(System.nanoTime(), 36);
    execute("CREATE ROLE " + role, "CREATE SCHEMA farm AUTHORIZATION " + role);
    settings(", role: " + role + ", schemas: [farm, public]");
    work.tables(1);
    work.ladder("apply").exits(0);
    assertThat(
            query("SELECT tableowner FROM pg_tables WHERE schemaname = 'farm' ORDER BY tablename"))
        .containsExactly(role, role, role);
    execute("CREATE TABLE public.loose (id integer)", "GRANT SELECT ON public.loose TO " + role);
    work.ladder("show").exits(0).says("bin_1", "public.loose");
  }
}
