package org.wornladder.engine.postgres;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Objection;
import org.wornladder.engine.Session;
import org.wornladder.engine.StorageTypes;
import org.wornladder.engine.Target;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/** PostgreSQL: a server, changes of structure inside transactions. */
public final class PostgresEngine implements Engine {
  private static final StorageTypes STORAGE =
      new StorageTypes("bigint", "integer", "text", "text", "text", "");

  static final Quoting QUOTING = new Quoting('"', false);
  static final String JDBC = "jdbc:postgresql:";

  private static final List<String> SCHEMES = List.of(JDBC, "postgres://", "postgresql://");
  private static final Set<Ability> ABILITIES =
      Set.of(
          Ability.TRANSACTIONAL_DDL,
          Ability.DEFERRED_CONSTRAINTS,
          Ability.PARTIAL_INDEXES,
          Ability.CONCURRENT_INDEXES,
          Ability.ROLES,
          Ability.SCHEMAS,
          Ability.LOCK_TIMEOUT,
          Ability.STATEMENT_TIMEOUT);

  @Override
  public String name() {
    return "postgres";
  }

  @Override
  public boolean accepts(String url) {
    return SCHEMES.stream().anyMatch(url::startsWith);
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
  public boolean isNamedIn(String text) {
    // No stream: it would load more at every start than all else here.
    for (String scheme : SCHEMES) {
      if (text.contains(scheme)) {
        return true;
      }
    }
    return false;
  }

  @Override
  public void loadAhead() {
    PostgresConnector.loadAhead();
  }

  @Override
  public boolean opensSlowly() {
    return true;
  }

  @Override
  public StorageTypes storage() {
    return STORAGE;
  }
}
