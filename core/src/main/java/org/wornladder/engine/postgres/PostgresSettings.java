package org.wornladder.engine.postgres;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.wornladder.engine.Access;
import org.wornladder.engine.StatementWords;
import org.wornladder.project.Environment;
import org.wornladder.project.EnvironmentSettings;
import org.wornladder.sql.Statement;

/** The settings of a session: what the environment asks for, and back to it after a script. */
final class PostgresSettings {
  /** The backend, its start, the user, the schema, and whether changes are refused. */
  static final String FACTS =
      "SELECT pg_catalog.pg_backend_pid(),"
          + " (SELECT pg_catalog.to_char(backend_start AT TIME ZONE 'UTC', 'YYYY-MM-DD HH24:MI:SS')"
          // What the view of the sessions asks, without the names that it looks up for each.
          + " FROM pg_catalog.pg_stat_get_activity(pg_catalog.pg_backend_pid())),"
          + " session_user, pg_catalog.current_schema(), pg_catalog.current_setting('transaction_read_only')::bool";

  /** DISCARD ALL, but for the locks that the session holds (manual, "DISCARD"). */
  static final String UNDO =
      "CLOSE ALL; SET SESSION AUTHORIZATION DEFAULT; RESET ROLE; RESET ALL; UNLISTEN *;"
          + " DISCARD TEMP; DISCARD SEQUENCES; ";

  private static final Set<String> PLAIN =
      Set.of(
          "CREATE",
          "ALTER",
          "DROP",
          "INSERT",
          "UPDATE",
          "DELETE",
          "COMMENT",
          "GRANT",
          "REVOKE",
          "COPY",
          "TRUNCATE");
  private static final Set<String> TEMPORARY = Set.of("TEMP", "TEMPORARY", "LOCAL", "GLOBAL");

  private PostgresSettings() {}

  static String of(Environment target, Access access) {
    EnvironmentSettings environment = target.settings();
    List<String> parts = new ArrayList<>();
    parts.add("SET client_min_messages = warning");
    // As the standard has it, and as scripts are read here.
    parts.add("SET standard_conforming_strings = on");
    if (access == Access.READ) {
      parts.add("SET default_transaction_read_only = on");
    }
    if (!environment.schemas().isEmpty()) {
      parts.add("SET search_path = " + PostgresEngine.QUOTING.names(environment.schemas()));
    }
    target.role().ifPresent(role -> parts.add("SET ROLE " + PostgresEngine.QUOTING.name(role)));
    environment
        .patience()
        .ifPresent(limit -> parts.add("SET lock_timeout = " + milliseconds(limit)));
    environment
        .statementTimeout()
        .ifPresent(limit -> parts.add("SET statement_timeout = " + milliseconds(limit)));
    return String.join("; ", parts);
  }

  /**
   * Makes the session's user, or the environment's role, who writes until the transaction ends,
   * whoever a script has become; then it is the script's choice again (manual, "SET").
   */
  static String writer(Environment target) {
    String role = target.role().map(PostgresEngine.QUOTING::name).orElse("NONE");
    return "SET LOCAL SESSION AUTHORIZATION DEFAULT; SET LOCAL ROLE " + role + "; ";
  }

  private static String milliseconds(Duration limit) {
    return Long.toString(Math.max(1, limit.toMillis()));
  }

  /** Whether a statement may leave the session other than it found it. */
  static boolean mayChange(Statement statement) {
    List<String> words = StatementWords.first(statement, 2);
    boolean plain =
        PLAIN.contains(words.get(0)) && !(words.size() > 1 && TEMPORARY.contains(words.get(1)));
    return !plain || statement.text().toLowerCase(Locale.ROOT).contains("set_config");
  }
}
