package org.wornladder.engine;

import java.util.Optional;
import java.util.Set;
import org.wornladder.engine.StatementTarget.Change;
import org.wornladder.engine.StatementTarget.Kind;
import org.wornladder.engine.StatementTarget.Name;
import org.wornladder.sql.JsonObject;
import org.wornladder.sql.Statement;

/** The same as {@link StatementTargets} for commands of a document database. */
final class CommandTargets {
  /** Commands that do nothing where all is as they ask for. */
  private static final Set<String> REPEATABLE = Set.of("createIndexes", "collMod");

  private CommandTargets() {}

  static boolean isRepeatable(Statement command) {
    return REPEATABLE.contains(JsonObject.of(command.text()).command());
  }

  static Optional<StatementTarget> of(Statement statement) {
    JsonObject command = JsonObject.of(statement.text());
    String subject = command.subject();
    return switch (command.command()) {
      case "create" -> Optional.of(target(Change.MAKES, Kind.COLLECTION, subject));
      case "drop" -> Optional.of(target(Change.DROPS, Kind.COLLECTION, subject));
      case "collMod", "createIndexes", "dropIndexes" ->
          Optional.of(target(Change.ALTERS, Kind.COLLECTION, subject));
      // It is gone from its old name.
      case "renameCollection" -> Optional.of(target(Change.DROPS, Kind.COLLECTION, subject));
      case "createUser" -> Optional.of(target(Change.MAKES, Kind.USER, subject));
      case "dropUser" -> Optional.of(target(Change.DROPS, Kind.USER, subject));
      case "createRole" -> Optional.of(target(Change.MAKES, Kind.ROLE, subject));
      case "dropRole" -> Optional.of(target(Change.DROPS, Kind.ROLE, subject));
      default -> Optional.empty();
    };
  }

  private static StatementTarget target(Change change, Kind kind, String name) {
    return new StatementTarget(change, kind, new Name("", name), Name.NONE);
  }
}
