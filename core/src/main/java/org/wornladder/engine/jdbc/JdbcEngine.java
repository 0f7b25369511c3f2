package org.wornladder.engine.jdbc;

import java.time.Clock;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.UnreachableException;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engine;
import org.wornladder.engine.ImplicitCommits;
import org.wornladder.engine.Objection;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.engine.Session;
import org.wornladder.engine.StorageTypes;
import org.wornladder.engine.Target;
import org.wornladder.project.Environment;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/**
 * An engine that is served by its JDBC driver alone. Nothing is taken for granted that its metadata
 * does not say, and no statement is written that is not in the SQL standard (ISO/IEC 9075-2).
 *
 * @param name the word behind {@code jdbc:} in its URLs, in lower case
 * @param traits what its driver says of it; before a connection, what the standard says
 */
public record JdbcEngine(String name, DriverTraits traits) implements Engine {
  private static final Pattern URL = Pattern.compile("jdbc:([A-Za-z][A-Za-z0-9_-]*):.*");

  /** What may be part of a transaction where changes of structure commit by themselves. */
  private static final ImplicitCommits ROWS =
      new ImplicitCommits(
          Set.of("INSERT", "UPDATE", "DELETE", "MERGE", "SELECT", "WITH", "VALUES"));

  /** The engine of a JDBC URL; empty for any other text. */
  public static Optional<Engine> forUrl(String url) {
    Matcher matcher = URL.matcher(url);
    return matcher.matches()
        ? Optional.of(
            new JdbcEngine(matcher.group(1).toLowerCase(Locale.ROOT), DriverTraits.STANDARD))
        : Optional.empty();
  }

  @Override
  public boolean accepts(String url) {
    return forUrl(url).filter(engine -> engine.name().equals(name)).isPresent();
  }

  @Override
  public boolean isOfDriver() {
    return true;
  }

  @Override
  public Dialect dialect() {
    return Dialects.standard(name);
  }

  @Override
  public Quoting quoting() {
    return traits.quoting();
  }

  @Override
  public Set<Ability> abilities() {
    return traits.structureInTransactions()
        ? EnumSet.of(Ability.TRANSACTIONAL_DDL)
        : EnumSet.noneOf(Ability.class);
  }

  @Override
  public Optional<String> restrictions() {
    return Optional.of(
        name
            + " is served by its driver alone: views, routines and triggers are known by name, and checks not at all; no scratch database"
            + " unless one is named under scratch:, which draft, rehearse and fold need; no"
            + " batches, no attic");
  }

  @Override
  public boolean joinsTransaction(Statement statement) {
    return traits.structureInTransactions() || traits.transactions() && ROWS.joins(statement);
  }

  @Override
  public Optional<Objection> objection(Statement statement, boolean insideTransaction) {
    return ROWS.objection(statement);
  }

  @Override
  public Session open(Target target, Access access) {
    return DriverSession.open(target, access);
  }

  /** It may be: the driver does not say. */
  @Override
  public boolean isOnServer() {
    return true;
  }

  @Override
  public ScratchDatabase scratch(Target server, Environment like, String project, Clock clock) {
    throw new UnreachableException(
        name + " is served by its driver alone, which makes no scratch databases",
        "environment " + like.name(),
        "name an empty database of it under scratch: in ladder.yaml, which may be erased",
        null);
  }

  @Override
  public Optional<String> reachesOut(Statement statement) {
    return Optional.empty();
  }

  @Override
  public StorageTypes storage() {
    return traits.storage();
  }
}
