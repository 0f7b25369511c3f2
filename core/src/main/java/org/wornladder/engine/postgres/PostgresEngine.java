package org.wornladder.engine.postgres;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engine;
import org.wornladder.engine.ExternalStatements;
import org.wornladder.engine.Objection;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.engine.ServerScratch;
import org.wornladder.engine.ServerUrl;
import org.wornladder.engine.Session;
import org.wornladder.engine.StorageTypes;
import org.wornladder.engine.Target;
import org.wornladder.engine.VariableSyntax;
import org.wornladder.project.Environment;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/** PostgreSQL: a server, changes of structure inside transactions. */
public final class PostgresEngine implements Engine {
  private static final StorageTypes STORAGE =
      new StorageTypes("bigint", "integer", "text", "text", "text", StorageTypes.NOT_NULL, "");

  static final Quoting QUOTING = new Quoting('"', Quoting.Backslash.BY_SETTING);
  static final String JDBC = "jdbc:postgresql:";

  private static final List<String> SCHEMES = List.of(JDBC, "postgres://", "postgresql://");
  private static final Set<Ability> ABILITIES =
      Set.of(
          Ability.BATCHES,
          Ability.ATTIC,
          Ability.TRANSACTIONAL_DDL,
          Ability.DEFERRED_CONSTRAINTS,
          Ability.PARTIAL_INDEXES,
          Ability.CONCURRENT_INDEXES,
          Ability.ROLES,
          Ability.SCHEMAS,
          Ability.LOCK_TIMEOUT,
          Ability.STATEMENT_TIMEOUT,
          Ability.REPLICA_LAG,
          Ability.STRUCTURE_FINGERPRINT);

  private static final ServerScratch.Words SCRATCH =
      new ServerScratch.Words(
          "SELECT d.datname FROM pg_catalog.pg_database d WHERE CAST(d.datname AS text)"
              + " LIKE CAST(%s AS text) AND NOT EXISTS"
              + " (SELECT 1 FROM pg_catalog.pg_stat_activity a WHERE a.datid = d.oid)",
          "DROP DATABASE IF EXISTS %s");

  private static final ExternalStatements OUTSIDE =
      new ExternalStatements(
          Set.of(
              "ROLE",
              "USER",
              "GROUP",
              "DATABASE",
              "TABLESPACE",
              "SERVER",
              "SUBSCRIPTION",
              "SYSTEM"),
          Set.of("FOREIGN DATA", "USER MAPPING"),
          false);

  @Override
  public String name() {
    return "postgres";
  }

  @Override
  public boolean accepts(String url) {
    return ServerUrl.begins(url, SCHEMES);
  }

  @Override
  public Dialect dialect() {
    return Dialects.POSTGRES;
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
    return !PostgresObjections.refusesTransaction(statement);
  }

  @Override
  public Optional<Objection> objection(Statement statement, boolean insideTransaction) {
    return PostgresObjections.to(statement, insideTransaction);
  }

  @Override
  public Session open(Target target, Access access) {
    return PostgresSession.open(target, access);
  }

  @Override
  public boolean isOnServer() {
    return true;
  }

  @Override
  public ScratchDatabase scratch(Target server, Environment like, String project, Clock clock) {
    return new ServerScratch(this, SCRATCH).make(server, like, project, clock);
  }

  @Override
  public Optional<String> reachesOut(Statement statement) {
    return OUTSIDE.in(statement);
  }

  @Override
  public StorageTypes storage() {
    return STORAGE;
  }

  @Override
  public VariableSyntax clientVariables() {
    return new PsqlVariables();
  }
}
