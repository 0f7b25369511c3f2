package org.wornladder.engine.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.engine.Session;
import org.wornladder.engine.StatementMeter;
import org.wornladder.sql.Statement;

/**
 * The lightest algorithm and lock by which the server changes a table, found by demanding each of
 * an empty copy, which goes through all statements about its table (MariaDB manual, "ALTER TABLE",
 * "ALGORITHM", "LOCK").
 */
final class MariadbMeter implements StatementMeter {
  private static final String PROBE = "ladder_probe_";

  /** From the lightest on. */
  private static final List<Way> WAYS =
      List.of(
          new Way("INSTANT", "NONE"),
          new Way("INSTANT", "EXCLUSIVE"),
          new Way("NOCOPY", "NONE"),
          new Way("NOCOPY", "SHARED"),
          new Way("INPLACE", "NONE"),
          new Way("INPLACE", "SHARED"),
          new Way("COPY", "SHARED"),
          new Way("COPY", "EXCLUSIVE"));

  private static final Pattern FOREIGN_KEY =
      Pattern.compile("CONSTRAINT (`(?:[^`]|``)+`) (FOREIGN KEY .*?),?$", Pattern.MULTILINE);

  /** Why the server refuses a lighter way. */
  private static final Pattern REASON = Pattern.compile("Reason: (.*?)\\. Try ");

  private static final Measured UNKNOWN = new Measured(0, List.of(), List.of());

  private final Session session;
  private final MariadbServer server;

  /** How many copies have been made, or have been given another name. */
  private int made;

  /** The copies by the words that name their tables. */
  private final Map<String, Probe> probes = new LinkedHashMap<>();

  /** An algorithm and a lock. */
  private record Way(String algorithm, String lock) {
    String words() {
      return "ALGORITHM=" + algorithm + ", LOCK=" + lock;
    }
  }

  /**
   * An empty copy of a table.
   *
   * @param foreignKeys what those of the table are called on the copy
   */
  private record Probe(String name, Map<String, String> foreignKeys) {}

  MariadbMeter(Session session, MariadbServer server) {
    this.session = session;
    this.server = server;
  }

  @Override
  public List<Measured> measure(List<Statement> statements) throws SQLException {
    List<Measured> measured = new ArrayList<>();
    try {
      for (Statement statement : statements) {
        Optional<MariadbAlteration> alteration = MariadbAlteration.of(statement);
        measured.add(alteration.isPresent() ? measured(alteration.get()) : UNKNOWN);
      }
    } finally {
      for (int i = 1; i <= made; i++) {
        session.change("DROP TABLE IF EXISTS " + PROBE + i);
      }
      probes.clear();
    }
    return measured;
  }

  private Measured measured(MariadbAlteration alteration) throws SQLException {
    String table = alteration.tableName();
    Optional<Probe> probe = probe(table);
    if (probe.isEmpty()) {
      // A table that another statement of the rung makes: no other session uses it yet.
      return UNKNOWN;
    }
    String newName = PROBE + (made + 1);
    Optional<String> reason = Optional.empty();
    for (Way way : WAYS) {
      try {
        session.change(
            alteration.on(
                probe.get().name(),
                newName,
                word -> probe.get().foreignKeys().getOrDefault(bare(word), word),
                way.algorithm(),
                way.lock()));
        renamed(alteration, probe.get(), newName);
        return measured(alteration, way, reason);
      } catch (SQLException e) {
        // Refused: a heavier one is tried.
        reason = reason(e);
      }
    }
    return UNKNOWN;
  }

  private void renamed(MariadbAlteration alteration, Probe probe, String newName) {
    if (alteration.renamedTo().isPresent()) {
      made++;
      probes.remove(alteration.tableName());
      probes.put(alteration.renamedTo().get(), new Probe(newName, probe.foreignKeys()));
    }
  }

  private Measured measured(MariadbAlteration alteration, Way way, Optional<String> reason) {
    String table = alteration.tableName();
    boolean copies = way.algorithm().equals("COPY");
    // What is done in place and not without a copy makes the table anew (MariaDB manual, "InnoDB
    // Online DDL Overview", "NOCOPY Algorithm").
    boolean anew = way.algorithm().equals("INPLACE") && !server.isMysql();
    boolean whole = copies || anew || alteration.addsIndex();
    List<String> effects = new ArrayList<>();
    effects.add(way.words() + " on " + table);
    reason.filter(why -> copies).ifPresent(why -> effects.add(why.toLowerCase(Locale.ROOT)));
    return new Measured(0, effects, whole ? List.of(table) : List.of());
  }

  private static Optional<String> reason(SQLException e) {
    Matcher matcher = REASON.matcher(String.valueOf(e.getMessage()));
    return matcher.find() ? Optional.of(matcher.group(1)) : Optional.empty();
  }

  /** The copy of a table; empty if there is no such table. */
  private Optional<Probe> probe(String table) throws SQLException {
    if (probes.containsKey(table)) {
      return Optional.of(probes.get(table));
    }
    made++;
    String name = PROBE + made;
    try {
      session.change("DROP TABLE IF EXISTS " + name);
      session.change("CREATE TABLE " + name + " LIKE " + table);
    } catch (SQLException e) {
      return Optional.empty();
    }
    Map<String, String> foreignKeys = new LinkedHashMap<>();
    Probe probe = new Probe(name, foreignKeys);
    probes.put(table, probe);
    Matcher key = FOREIGN_KEY.matcher(definition(table));
    while (key.find()) {
      String own = "`" + name + "_key_" + (foreignKeys.size() + 1) + "`";
      session.change("ALTER TABLE " + name + " ADD CONSTRAINT " + own + " " + key.group(2));
      foreignKeys.put(bare(key.group(1)), own);
    }
    return Optional.of(probe);
  }

  private String definition(String table) throws SQLException {
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet rows = sql.executeQuery("SHOW CREATE TABLE " + table)) {
      return rows.next() ? rows.getString(2) : "";
    }
  }

  private static String bare(String name) {
    return name.replace("`", "").toLowerCase(Locale.ROOT);
  }
}
