package org.wornladder.engine;

import java.time.Clock;
import java.util.Optional;
import java.util.Set;
import org.wornladder.UnreachableException;
import org.wornladder.project.Environment;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/** One kind of database. Stateless; safe for use by several threads. */
public interface Engine {
  /** The name as it is in files, in lower case. */
  String name();

  /** Whether a URL, with its variables put in or not, is one of this engine's. */
  boolean accepts(String url);

  /** What cannot be done with this engine that can be done with others, for people. */
  default Optional<String> restrictions() {
    return Optional.empty();
  }

  /** Whether a JDBC driver out of {@code drivers/} serves it. */
  default boolean isOfDriver() {
    return false;
  }

  Dialect dialect();

  Quoting quoting();

  Set<Ability> abilities();

  /**
   * Whether a statement can be part of a transaction: it takes effect with the commit, and nothing
   * of it is left without.
   */
  boolean joinsTransaction(Statement statement);

  /**
   * Why a statement cannot be in a rung: it would end the transaction, or have no effect or a
   * harmful one in it. Empty if it can.
   */
  Optional<Objection> objection(Statement statement, boolean insideTransaction);

  /** What is not known of a statement, which the database may know; empty if it is known. */
  default Optional<String> unknown(Statement statement) {
    return Optional.empty();
  }

  /**
   * Opens a session.
   *
   * @throws UnreachableException if the database cannot be reached or used
   */
  Session open(Target target, Access access);

  /** Whether its databases are those of a server that others use too. */
  default boolean isOnServer() {
    return false;
  }

  /**
   * Makes a throw-away database that takes the place of an environment.
   *
   * @param server where it is made, for an engine that has servers
   * @throws UnreachableException if it cannot be made
   */
  ScratchDatabase scratch(Target server, Environment like, String project, Clock clock);

  /** What a statement reaches that lies outside of its database; empty if nothing. */
  Optional<String> reachesOut(Statement statement);

  /**
   * What a statement reaches on the machine where the tool runs: its files, or code in the tool's
   * own process; empty if nothing.
   */
  default Optional<String> reachesClient(Statement statement) {
    return Optional.empty();
  }

  /** The types of the columns in the tool's own tables. */
  StorageTypes storage();

  /** How the engine's own client puts values into statements. */
  default VariableSyntax clientVariables() {
    return VariableSyntax.NONE;
  }
}
