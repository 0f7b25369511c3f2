package org.wornladder.engine.h2;

import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engine;
import org.wornladder.engine.ExternalStatements;
import org.wornladder.engine.FileScratch;
import org.wornladder.engine.ImplicitCommits;
import org.wornladder.engine.Objection;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.engine.ServerUrl;
import org.wornladder.engine.Session;
import org.wornladder.engine.StorageTypes;
import org.wornladder.engine.Target;
import org.wornladder.project.Environment;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/** H2: in the program, in a file, or a server; its changes of structure commit by themselves. */
public final class H2Engine implements Engine {
  /** H2, "SQL Grammar": "This command commits an open transaction". */
  private static final ImplicitCommits COMMITS =
      new ImplicitCommits(
          Set.of("INSERT", "UPDATE", "DELETE", "MERGE", "SELECT", "WITH", "VALUES", "TABLE"));

  private static final StorageTypes STORAGE =
      new StorageTypes(
          "bigint", "integer", "varchar", "varchar", "varchar", StorageTypes.NOT_NULL, "");

  static final Quoting QUOTING = new Quoting('"', Quoting.Backslash.PLAIN);
  static final String JDBC = "jdbc:h2:";

  private static final List<String> SCHEMES = List.of(JDBC);
  private static final Set<Ability> ABILITIES =
      Set.of(
          Ability.BATCHES,
          Ability.ATTIC,
          Ability.LOCK_TIMEOUT,
          Ability.STATEMENT_TIMEOUT,
          Ability.COLUMN_POSITIONS);

  private static final ExternalStatements OUTSIDE =
      new ExternalStatements(Set.of("USER", "ROLE", "LINKED"), Set.of(), true);

  @Override
  public String name() {
    return "h2";
  }

  @Override
  public boolean accepts(String url) {
    return ServerUrl.begins(url, SCHEMES);
  }

  @Override
  public Dialect dialect() {
    return Dialects.H2;
  }

  @Override
  public Quoting quoting() {
    return QUOTING;
  }

  @Override
  public Set<Ability> abilities() {
    return ABILITIES;
  }

  @Override
  public boolean joinsTransaction(Statement statement) {
    return COMMITS.joins(statement);
  }

  @Override
  public Optional<Objection> objection(Statement statement, boolean insideTransaction) {
    return COMMITS.objection(statement);
  }

  @Override
  public Session open(Target target, Access access) {
    return H2Session.open(target, access);
  }

  @Override
  public ScratchDatabase scratch(Target server, Environment like, String project, Clock clock) {
    return FileScratch.make(like, file -> JDBC + "file:" + file + settings(like.url()));
  }

  @Override
  public Optional<String> reachesClient(Statement statement) {
    return H2ClientReach.of(statement);
  }

  @Override
  public Optional<String> reachesOut(Statement statement) {
    return OUTSIDE.in(statement);
  }

  /** What the URL says of how the database behaves, without user and password. */
  private static String settings(String url) {
    String jdbc = H2Url.of(url, Path.of("")).jdbc();
    return jdbc.contains(";") ? jdbc.substring(jdbc.indexOf(';')) : "";
  }

  @Override
  public StorageTypes storage() {
    return STORAGE;
  }
}
