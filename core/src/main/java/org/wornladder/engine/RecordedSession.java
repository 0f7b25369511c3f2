package org.wornladder.engine;

import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/**
 * A session that also keeps, as SQL, everything that changes the database through it: so that the
 * same can be run by the engine's own client. A proxy stands between the caller and the session and
 * changes nothing of what either says.
 */
public final class RecordedSession {
  /**
   * What was run.
   *
   * @param data rows that follow a bulk load; empty for all others
   * @param of the script's statement that it is, or is a part of; empty for the tool's own
   */
  public record Recorded(String sql, String data, Optional<Statement> of) {
    private static Recorded own(String sql) {
      return new Recorded(sql, "", Optional.empty());
    }
  }

  private final Quoting quoting;
  private final Map<String, String> tables;
  private final String prefix;
  private final List<Recorded> log = new ArrayList<>();
  private final Session session;

  /**
   * @param tables the tool's own tables: their names here, and what the record calls each
   * @param prefix what the record has in front of a table's name, its point included
   */
  public RecordedSession(Session real, Quoting quoting, Map<String, String> tables, String prefix) {
    this.prefix = prefix;
    this.quoting = quoting;
    this.tables = Map.copyOf(tables);
    session =
        (Session)
            Proxy.newProxyInstance(
                Session.class.getClassLoader(),
                new Class<?>[] {Session.class},
                (proxy, method, arguments) -> call(real, method, arguments));
  }

  /** What a session writes in front of a table's name, its point included; may be empty. */
  public static String prefix(Session session) {
    return session.quoted("x").replaceFirst("(?s)\\W?x\\W?$", "");
  }

  /** The session to be used. */
  public Session session() {
    return session;
  }

  /** What was run until now, in order. */
  public List<Recorded> log() {
    return List.copyOf(log);
  }

  private Object call(Session real, Method method, Object... arguments) throws Throwable {
    try {
      if (method.getName().equals("staging")) {
        return real.stagingThrough(session);
      }
      if (method.getName().equals("execute")) {
        for (Statement part : real.carriedOutBy((Statement) arguments[0])) {
          log.add(
              new Recorded(
                  renamed(real, part.text()), part.data(), Optional.of((Statement) arguments[0])));
        }
      }
      Object result = method.invoke(real, arguments);
      keep(real, method.getName(), arguments == null ? new Object[0] : arguments);
      return result;
    } catch (InvocationTargetException e) {
      throw e.getCause();
    }
  }

  private void keep(Session real, String name, Object... arguments) {
    switch (name) {
      case "begin" -> {
        if (arguments.length == 1) {
          real.settingsBefore(((List<?>) arguments[0]).stream().map(Statement.class::cast).toList())
              .forEach(setting -> log.add(Recorded.own(setting)));
        }
        log.add(Recorded.own("BEGIN"));
      }
      case "commit" -> log.add(Recorded.own("COMMIT"));
      case "amend", "change" -> log.add(Recorded.own(renamed(real, (String) arguments[0])));
      case "insert" -> log.add(Recorded.own(insertion(arguments)));
      default -> {
        // It changes nothing.
      }
    }
  }

  private String renamed(Session real, String sql) {
    String text = sql;
    String here = prefix(real);
    if (!here.isEmpty() && !here.equals(prefix)) {
      // Where names are written with their database, the script is for another one.
      text = text.replace(here, prefix);
    }
    for (Map.Entry<String, String> table : tables.entrySet()) {
      text = text.replace(real.quoted(table.getKey()), table.getValue());
    }
    return text;
  }

  private String insertion(Object... arguments) {
    List<String> values = new ArrayList<>();
    for (Object value : (List<?>) arguments[2]) {
      values.add(value instanceof Number ? value.toString() : quoting.text(value.toString()));
    }
    String table = Optional.ofNullable(tables.get((String) arguments[0])).orElseThrow();
    return "INSERT INTO %s (%s) VALUES (%s)"
        .formatted(
            table,
            String.join(", ", ((List<?>) arguments[1]).stream().map(Object::toString).toList()),
            String.join(", ", values));
  }
}
