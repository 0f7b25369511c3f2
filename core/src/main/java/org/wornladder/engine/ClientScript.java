package org.wornladder.engine;

/**
 * The lines with which a script begins that an engine's own client runs: it stops at the first
 * error, and does nothing on a database whose journal is not where it was.
 */
public final class ClientScript {
  private static final String MOVED =
      "the journal is not where it was when this script was written: nothing is done";

  private ClientScript() {}

  /**
   * A query for 1 if a table is not there, otherwise 0.
   *
   * @param name the table's, in the first of the session's schemas
   */
  public static String isMissing(Engine engine, String name) {
    String text = engine.quoting().text(name);
    String there =
        switch (engine.name()) {
          case "sqlite" -> "sqlite_schema WHERE name = " + text;
          case "mariadb" ->
              "information_schema.tables WHERE table_schema = database() AND table_name = " + text;
          default ->
              "information_schema.tables WHERE table_schema = current_schema AND table_name = "
                  + text;
        };
    return "SELECT CASE WHEN count(*) = 0 THEN 1 ELSE 0 END FROM " + there;
  }

  /**
   * The beginning of a script.
   *
   * @param engine its name
   * @param heads a query for 1 if the journal is where it was, otherwise 0
   */
  public static String opening(String engine, String heads) {
    return switch (engine) {
      case "postgres" ->
          """
          \\set ON_ERROR_STOP on
          SELECT (%s) = 0 AS ladder_moved \\gset
          \\if :ladder_moved
          \\echo '%s'
          \\quit
          \\endif
          SET standard_conforming_strings = on;
          """
              .formatted(heads, MOVED);
      case "mariadb" ->
          """
          -- %s: that is what a failure of the next statements means
          SET @ladder_check = IF((%s) = 0, 'SELECT `journal is not where it was: nothing is done`', 'DO 0');
          PREPARE ladder_check FROM @ladder_check;
          EXECUTE ladder_check;
          DEALLOCATE PREPARE ladder_check;
          """
              .formatted(MOVED, heads);
      case "sqlite" ->
          """
          .bail on
          -- %s: that is what a failure of the next statement means
          CREATE TEMP TABLE ladder_moved (journal_is_where_it_was integer CHECK (journal_is_where_it_was = 1));
          INSERT INTO ladder_moved %s;
          DROP TABLE ladder_moved;
          """
              .formatted(MOVED, heads);
      default ->
          "-- "
              + MOVED
              + ": that is what a failure of the next statement means\nSELECT 1 / ("
              + heads
              + ");\n";
    };
  }
}
