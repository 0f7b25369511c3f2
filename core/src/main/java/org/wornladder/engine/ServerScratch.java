package org.wornladder.engine;

import java.security.SecureRandom;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.wornladder.LadderException;
import org.wornladder.UnreachableException;
import org.wornladder.project.Condition;
import org.wornladder.project.Environment;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/**
 * Throw-away databases on a server, each under a name with the project, the time and a random part,
 * and a table inside that says whose it is. What a crash left is dropped by a later run, if it has
 * that table and nobody is in it.
 */
public final class ServerScratch {
  private static final int PROJECT_LETTERS = 20;
  private static final int RANDOM_BOUND = 1 << 24;
  private static final int LOOKS = 10;
  private static final long LOOK_PAUSE_MS = 20;
  private static final String LIKE_ESCAPE = "\\_";

  private final Engine engine;
  private final Words words;

  /**
   * What differs by engine.
   *
   * @param leftovers a query for databases that nobody is in; {@code %s} is a pattern of names
   * @param drop the statement that drops one; {@code %s} is its quoted name
   */
  public record Words(String leftovers, String drop) {}

  public ServerScratch(Engine engine, Words words) {
    this.engine = engine;
    this.words = words;
  }

  /**
   * Makes a database on a target's server.
   *
   * @throws UnreachableException if the user may not, with the ways out
   */
  public ScratchDatabase make(Target server, Environment like, String project, Clock clock) {
    String letters = project.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "_");
    String prefix =
        ScratchDatabase.PROOF
            + "_"
            + letters.substring(0, Math.min(PROJECT_LETTERS, letters.length()))
            + "_";
    String time =
        DateTimeFormatter.ofPattern("yyyyMMddHHmmss")
            .format(LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC));
    String random = Integer.toHexString(new SecureRandom().nextInt(RANDOM_BOUND));
    String name = prefix + time + "_" + random;
    Session admin = Engines.open(engine, server, Access.WRITE);
    Statement drop = statement(words.drop().formatted(engine.quoting().name(name)));
    try {
      dropLeftovers(admin, server, prefix, project);
      admin.execute(statement("CREATE DATABASE " + engine.quoting().name(name)));
    } catch (SQLException e) {
      Fault fault = admin.fault(e);
      admin.close();
      throw new UnreachableException(
          "no scratch database can be made: " + fault.message(),
          "environment " + server.environment().name() + ", " + admin.address(),
          "grant the user the right to create databases, or name a server or an empty database"
              + " under scratch: in ladder.yaml",
          e);
    }
    Environment inside =
        like.inPlaceOf(
            withDatabase(server.environment().url(), name),
            server.environment().user(),
            server.environment().password());
    return new OnServer(admin, proven(admin, server, inside, project, drop), inside, drop);
  }

  /** A session inside, which keeps it from being taken for a leftover; a failure leaves nothing. */
  private Session proven(
      Session admin, Target server, Environment there, String project, Statement drop) {
    Target inside = server.with(there);
    List<Session> open = new ArrayList<>(List.of(admin));
    try {
      Session keeper = Engines.open(engine, inside, Access.WRITE);
      open.add(0, keeper);
      ScratchDatabase.prove(keeper, engine, project);
      return keeper;
    } catch (SQLException | LadderException e) {
      new OnServer(admin, open.get(0), inside.environment(), drop).close();
      if (server.dataSource().isPresent()) {
        throw new UnreachableException(
            "a scratch database needs connections of its own, and the program's data source leads"
                + " to one database alone",
            "environment " + inside.environment().name(),
            "name a server or an empty database under scratch: in ladder.yaml",
            e);
      }
      throw e instanceof LadderException known
          ? known
          : new UnreachableException(
              "the scratch database cannot be used: " + e.getMessage(),
              "environment " + inside.environment().name(),
              "see the rights of its user",
              e);
    }
  }

  private record OnServer(Session admin, Session keeper, Environment environment, Statement drop)
      implements ScratchDatabase {
    @Override
    public void close() {
      try (admin) {
        if (keeper != admin) {
          keeper.close();
        }
        admin.execute(drop);
      } catch (SQLException e) {
        // A later run finds it by its name and its table, and drops it then.
        return;
      }
    }
  }

  private Statement statement(String text) {
    return new Statement(text, Place.of("scratch"), engine.dialect());
  }

  /**
   * Drops the databases that crashed runs left. A run connects to its database before it makes the
   * table that names the project, and stays connected: one that has the table, and after that no
   * connection, is a leftover.
   */
  private void dropLeftovers(Session admin, Target server, String prefix, String project)
      throws SQLException {
    for (String name : leftovers(admin, prefix)) {
      if (isOurs(server, name, project) && isLeft(admin, prefix, name)) {
        admin.execute(statement(words.drop().formatted(engine.quoting().name(name))));
      }
    }
  }

  /**
   * Whether a scratch database has no connection. Asked several times: the server may still list
   * the connection of {@link #isOurs}, which was closed just before.
   */
  private boolean isLeft(Session admin, String prefix, String name) throws SQLException {
    for (int look = 0; look < LOOKS; look++) {
      if (leftovers(admin, prefix).contains(name)) {
        return true;
      }
      try {
        Thread.sleep(LOOK_PAUSE_MS);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        return false;
      }
    }
    return false;
  }

  /** The scratch databases of a project that have no connection. */
  private List<String> leftovers(Session admin, String prefix) throws SQLException {
    List<String> names = new ArrayList<>();
    String pattern = engine.quoting().text(prefix.replace("_", LIKE_ESCAPE) + "%");
    try (java.sql.Statement sql = admin.connection().createStatement();
        ResultSet rows = sql.executeQuery(words.leftovers().formatted(pattern))) {
      while (rows.next()) {
        names.add(rows.getString(1));
      }
    }
    return names;
  }

  private boolean isOurs(Target server, String name, String project) {
    Environment inside =
        server
            .environment()
            .inPlaceOf(
                withDatabase(server.environment().url(), name),
                server.environment().user(),
                server.environment().password());
    try (Session session = Engines.open(engine, server.with(inside), Access.READ)) {
      Condition.Presence proof =
          new Condition.Presence(Condition.Kind.TABLE, ScratchDatabase.PROOF, "", true, "");
      return session.exists(proof)
          && session.holds(
              "SELECT count(*) FROM "
                  + session.quoted(ScratchDatabase.PROOF)
                  + " WHERE project = "
                  + engine.quoting().text(project));
    } catch (SQLException | UnreachableException e) {
      // Another run has it by now, or it is none of ours.
      return false;
    }
  }

  /** The same URL with another database. */
  static String withDatabase(String url, String name) {
    int slashes = url.indexOf("//");
    if (slashes < 0) {
      return url.substring(0, url.lastIndexOf(':') + 1) + name;
    }
    int question = url.indexOf('?', slashes);
    String parameters = question < 0 ? "" : url.substring(question);
    String place = question < 0 ? url : url.substring(0, question);
    int slash = place.indexOf('/', slashes + 2);
    return (slash < 0 ? place : place.substring(0, slash)) + "/" + name + parameters;
  }
}
