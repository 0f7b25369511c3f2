package org.wornladder.engine.document;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.UnreachableException;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Objection;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.engine.Session;
import org.wornladder.engine.StorageTypes;
import org.wornladder.engine.Target;
import org.wornladder.project.Environment;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.JsonObject;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/**
 * A document database. Its scripts are database commands as JSON. No class of the driver is named
 * here: a program around the library need not have it.
 */
public final class DocumentEngine implements Engine {
  private static final List<String> SCHEMES = List.of("mongodb://", "mongodb+srv://");

  /** It has no strings or names of SQL; the form of JSON does where one is shown. */
  private static final Quoting QUOTING = new Quoting('"', Quoting.Backslash.ESCAPES);

  private final boolean transactions;

  /** The engine before any deployment was asked what it can do. */
  public DocumentEngine() {
    this(false);
  }

  /**
   * @param transactions whether the deployment has them
   */
  DocumentEngine(boolean transactions) {
    this.transactions = transactions;
  }

  @Override
  public String name() {
    return Dialects.DOCUMENT.name();
  }

  @Override
  public boolean accepts(String url) {
    return SCHEMES.stream().anyMatch(url::startsWith);
  }

  @Override
  public Optional<String> restrictions() {
    return Optional.of(
        "on a document database a transaction holds commands that write documents, and those on a"
            + " replica set or sharded cluster; all others run one by one, and nothing undoes them;"
            + " no scratch database, which draft, rehearse and fold need; no standing scripts, no"
            + " batches, no attic; seeds are documents of JSON or YAML");
  }

  @Override
  public Dialect dialect() {
    return Dialects.DOCUMENT;
  }

  @Override
  public Quoting quoting() {
    return QUOTING;
  }

  @Override
  public Set<Ability> abilities() {
    return Set.of(Ability.LIMITED_TRANSACTIONS);
  }

  @Override
  public boolean joinsTransaction(Statement statement) {
    return transactions
        && DocumentCommands.joinsTransaction(JsonObject.of(statement.text()).keys().keySet());
  }

  @Override
  public Optional<Objection> objection(Statement statement, boolean insideTransaction) {
    JsonObject command = JsonObject.of(statement.text());
    if (command.command().isEmpty()) {
      return Optional.of(
          new Objection("this command is empty", "write its name first: {\"create\": \"bin\"}"));
    }
    if (command.get("$db").isPresent()) {
      return Optional.of(
          new Objection(
              "this command names a database of its own",
              "take \"$db\" out: a rung changes the database of its environment"));
    }
    if (command.command().equals("dropDatabase")) {
      return Optional.of(
          new Objection(
              "dropDatabase takes the journal with it", "drop the collections that should go"));
    }
    if (DocumentCommands.isOfSessions(command.command())) {
      return Optional.of(
          new Objection(
              command.command() + " is about the session, which is not the script's",
              "take it out"));
    }
    return invalid(statement);
  }

  /** JSON may still be no Extended JSON: an object id of five digits. */
  private static Optional<Objection> invalid(Statement statement) {
    try {
      return DocumentJson.mistake(statement.text())
          .map(words -> new Objection(words, "correct this command"));
    } catch (NoClassDefFoundError e) {
      // A program that has not got the driver opens no session either; that error names it.
      return Optional.empty();
    }
  }

  @Override
  public Optional<String> unknown(Statement statement) {
    String name = JsonObject.of(statement.text()).command();
    return DocumentCommands.isKnown(name)
        ? Optional.empty()
        : Optional.of("the command " + name + " is not known here; the server may know it");
  }

  @Override
  public Session open(Target target, Access access) {
    return DocumentSession.open(target, access);
  }

  @Override
  public boolean isOnServer() {
    return true;
  }

  @Override
  public ScratchDatabase scratch(Target server, Environment like, String project, Clock clock) {
    throw new UnreachableException(
        "no scratch databases are made on a document database",
        "environment " + like.name(),
        "do without what needs one: drafts, rehearsals, folds, and what the files alone would build",
        null);
  }

  @Override
  public Optional<String> reachesOut(Statement statement) {
    return Optional.empty();
  }

  /** Documents have no types of columns. */
  @Override
  public StorageTypes storage() {
    throw new UnsupportedOperationException("a document database has no column types");
  }
}
