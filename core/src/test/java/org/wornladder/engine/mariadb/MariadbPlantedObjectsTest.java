package org.wornladder.engine.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.TestLadder;
import org.wornladder.server.EveryCommand;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/**
 * A user who may create routines and tables in the managed database gives them the names of what
 * the program's own statements call and read. Each function fails when it is called.
 */
class MariadbPlantedObjectsTest {
  /** A call, with a blank too: then the server takes a function of its own for a user's. */
  private static final Pattern CALL = Pattern.compile("\\b([a-z][a-z0-9_]+) ?\\(");

  private static final Pattern CATALOG_TABLE = Pattern.compile("information_schema\\.(\\w+)");

  @TempDir Path root;

  @Test
  void noStatementOfTheProgramMeetsWhatAUserPlanted() throws IOException {
    TestDatabase database = TestDatabase.make(Kind.MARIADB, root);
    TestLadder project = project(database);
    project.apply();
    TreeSet<String> functions = found(CALL);
    assertThat(functions).contains("concat", "coalesce", "get_lock", "connection_id", "count");
    functions.forEach(
        name ->
            database.execute(
                "CREATE FUNCTION `"
                    + name
                    + "`(a text) RETURNS text DETERMINISTIC BEGIN SIGNAL SQLSTATE '45000'"
                    + " SET MESSAGE_TEXT = 'planted: function "
                    + name
                    + "'; RETURN a; END"));
    TreeSet<String> tables = found(CATALOG_TABLE);
    assertThat(tables).contains("tables", "columns", "triggers");
    tables.forEach(name -> database.execute("CREATE TABLE `" + name + "` (planted integer)"));
    EveryCommand.run(project, database, Files.createDirectory(root.resolve("elsewhere")));
  }

  private TestLadder project(TestDatabase database) {
    return TestLadder.on(database, root)
        .tables(2)
        .rung(
            "0003-crates",
            "CREATE TABLE crate (id integer PRIMARY KEY AUTO_INCREMENT, code varchar(20) NOT NULL"
                + " UNIQUE, size ENUM('small', 'large'), parent integer REFERENCES crate (id),"
                + " CHECK (code <> ''));\nCREATE VIEW heavy AS SELECT id, code FROM crate;",
            "DROP VIEW heavy;\nDROP TABLE crate;")
        .rung(
            "0004-grades",
            "CREATE TABLE grade (code varchar(9) PRIMARY KEY, words text);",
            "DROP TABLE grade;")
        .file("seeds/grade.csv", "code,words\nA,best\nB,good\n")
        .file(
            "ladder.yaml",
            "name: hollowfield\nenvironments:\n  dev: { url: '"
                + database.url()
                + "', disposable: true }\nseeds:\n  - table: grade\n");
  }

  /** Names in the code that talks to this engine. */
  private static TreeSet<String> found(Pattern pattern) throws IOException {
    TreeSet<String> names = new TreeSet<>();
    Path code = Path.of("src/main/java/org/wornladder");
    for (String folder : List.of("engine/mariadb", "engine", "journal", "seed")) {
      try (Stream<Path> files = Files.list(code.resolve(folder))) {
        for (Path file : files.filter(Files::isRegularFile).toList()) {
          Matcher found = pattern.matcher(Files.readString(file).toLowerCase(Locale.ROOT));
          while (found.find()) {
            names.add(found.group(1));
          }
        }
      }
    }
    return names;
  }
}
