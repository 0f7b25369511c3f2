package org.wornladder.engine.h2;

import java.sql.SQLException;
import java.util.List;
import org.wornladder.engine.DatabaseCleaner;
import org.wornladder.engine.Session;

/** Takes everything out of the schema that a connection to H2 is in. */
final class H2Cleaner {
  private static final List<String> DROPS =
      List.of(
          "SELECT 'DROP SYNONYM ' || quote_ident(synonym_name) FROM information_schema.synonyms"
              + " WHERE synonym_schema = current_schema",
          "SELECT 'DROP VIEW IF EXISTS ' || quote_ident(table_name) || ' CASCADE'"
              + " FROM information_schema.views WHERE table_schema = current_schema",
          "SELECT 'DROP TABLE IF EXISTS ' || quote_ident(table_name) || ' CASCADE'"
              + " FROM information_schema.tables"
              + " WHERE table_schema = current_schema AND table_type <> 'VIEW'",
          "SELECT 'DROP SEQUENCE IF EXISTS ' || quote_ident(sequence_name)"
              + " FROM information_schema.sequences WHERE sequence_schema = current_schema",
          "SELECT DISTINCT 'DROP ' || CASE WHEN routine_type = 'AGGREGATE' THEN 'AGGREGATE '"
              + " ELSE 'ALIAS ' END || quote_ident(routine_name)"
              + " FROM information_schema.routines WHERE routine_schema = current_schema",
          "SELECT 'DROP DOMAIN ' || quote_ident(domain_name) || ' CASCADE'"
              + " FROM information_schema.domains WHERE domain_schema = current_schema",
          "SELECT 'DROP CONSTANT ' || quote_ident(constant_name)"
              + " FROM information_schema.constants WHERE constant_schema = current_schema");

  private H2Cleaner() {}

  static void empty(Session session, List<String> last) throws SQLException {
    DatabaseCleaner emptying = new DatabaseCleaner(session);
    List<String> own = last.stream().map(H2Engine.QUOTING::name).toList();
    for (String drops : DROPS) {
      emptying.run(emptying.list(drops), own);
    }
  }
}
