package org.wornladder.engine.postgres;

/**
 * The kinds of objects that the catalogue can hold (manual, chapter "System Catalogs"), and the
 * query that says which of them are there: most databases have a few.
 */
final class PostgresObjectKinds {
  static final String TABLE = "class r";
  static final String PARTITIONED_TABLE = "class p";
  static final String VIEW = "class v";
  static final String MATERIALISED_VIEW = "class m";
  static final String SEQUENCE = "class S";
  static final String COMPOSITE_TYPE = "class c";
  static final String FOREIGN_TABLE = "class f";
  static final String ENUM = "type e";
  static final String DOMAIN = "type d";
  static final String RANGE = "type r";
  static final String FUNCTION = "routine f";
  static final String WINDOW_FUNCTION = "routine w";
  static final String PROCEDURE = "routine p";
  static final String AGGREGATE = "routine a";
  static final String UNIQUE = "constraint u";
  static final String CHECK = "constraint c";
  static final String EXCLUSION = "constraint x";
  static final String FOREIGN_KEY = "constraint f";
  static final String TRIGGER = "trigger";
  static final String POLICY = "policy";
  static final String RULE = "rule";
  static final String PUBLICATION = "publication";
  static final String EVENT_TRIGGER = "event trigger";
  static final String SEARCH_CONFIGURATION = "text search configuration";
  static final String SEARCH_PARSER = "text search parser";
  static final String SEARCH_DICTIONARY = "text search dictionary";
  static final String STATISTICS = "statistics";
  static final String COLLATION = "collation";
  static final String OPERATOR = "operator";
  static final String COMMENT = "comment";

  /** One that is not the language's, which is in every database and owns nothing managed. */
  static final String EXTENSION = "extension";

  /** What the server itself brings has lower numbers (manual, "Object Identifier Types"). */
  static final long FIRST_OF_USERS = 16384;

  private static final String QUERY =
      """
      SELECT DISTINCT 'class ' || relkind::text FROM pg_catalog.pg_class
        WHERE relnamespace = %here
      UNION ALL SELECT DISTINCT 'type ' || typtype::text FROM pg_catalog.pg_type
        WHERE oid >= 16384 AND typnamespace = %here
      UNION ALL SELECT DISTINCT 'routine ' || prokind::text FROM pg_catalog.pg_proc
        WHERE oid >= 16384 AND pronamespace = %here
      UNION ALL SELECT DISTINCT 'constraint ' || contype::text FROM pg_catalog.pg_constraint
        WHERE connamespace = %here
      UNION ALL SELECT 'trigger' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_trigger WHERE NOT tgisinternal)
      UNION ALL SELECT 'policy' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_policy)
      UNION ALL SELECT 'rule' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_rewrite
        WHERE rulename <> '_RETURN' AND ev_class >= 16384)
      UNION ALL SELECT 'publication' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_publication)
      UNION ALL SELECT 'event trigger' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_event_trigger)
      UNION ALL SELECT 'extension' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_extension
        WHERE extname <> 'plpgsql')
      UNION ALL SELECT 'text search configuration' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_ts_config
        WHERE oid >= 16384 AND cfgnamespace = %here)
      UNION ALL SELECT 'text search parser' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_ts_parser
        WHERE oid >= 16384 AND prsnamespace = %here)
      UNION ALL SELECT 'text search dictionary' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_ts_dict
        WHERE oid >= 16384 AND dictnamespace = %here)
      UNION ALL SELECT 'statistics' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_statistic_ext
        WHERE oid >= 16384 AND stxnamespace = %here)
      UNION ALL SELECT 'collation' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_collation
        WHERE oid >= 16384 AND collnamespace = %here)
      UNION ALL SELECT 'operator' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_operator
        WHERE oid >= 16384 AND oprnamespace = %here)
      UNION ALL SELECT 'comment' WHERE EXISTS (SELECT 1 FROM pg_catalog.pg_description
        WHERE objoid >= 16384)""";

  private PostgresObjectKinds() {}

  /**
   * The query, which answers with a name a row.
   *
   * @param schemas the names of the managed ones, as texts
   */
  static String query(String schemas) {
    String here =
        "ANY (ARRAY(SELECT oid FROM pg_catalog.pg_namespace WHERE nspname IN (" + schemas + ")))";
    return QUERY.replace("%here", here);
  }
}
