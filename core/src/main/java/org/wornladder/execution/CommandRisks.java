package org.wornladder.execution;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.wornladder.change.Risk;
import org.wornladder.change.Risk.Kind;
import org.wornladder.execution.StatementRisks.Found;
import org.wornladder.sql.JsonObject;
import org.wornladder.sql.Statement;

/** The same as {@link StatementRisks} for commands of a document database. */
final class CommandRisks {
  private final Set<String> own = new HashSet<>();
  private final List<Found> found = new ArrayList<>();

  private CommandRisks() {}

  static List<Found> of(List<Statement> commands) {
    CommandRisks risks = new CommandRisks();
    commands.forEach(risks::take);
    return List.copyOf(risks.found);
  }

  private void take(Statement statement) {
    JsonObject command = JsonObject.of(statement.text());
    String name = command.subject();
    switch (command.command()) {
      case "create" -> own.add(name);
      case "drop" -> {
        add(statement, name, Kind.ERASES, "its documents are gone");
        add(statement, name, Kind.BREAKS_OLD_CODE, "it is not there any more");
      }
      case "delete" -> add(statement, name, Kind.ERASES, "documents are gone");
      case "renameCollection" -> {
        String to = command.get("to").orElse("");
        add(statement, name, Kind.BREAKS_OLD_CODE, StatementRisks.CALLED + to + " now");
      }
      case "createIndexes" -> {
        if (command.get("indexes").orElse("").matches("(?s).*\"unique\"\\s*:\\s*true.*")) {
          add(statement, name, Kind.MAY_FAIL, "no two documents may have the same key");
        }
      }
      case "collMod" -> {
        if (command.get("validator").isPresent()) {
          add(statement, name, Kind.BREAKS_OLD_CODE, "what it does not accept cannot be written");
        }
      }
      default -> {
        // No risk that a text shows.
      }
    }
  }

  private void add(Statement statement, String name, Kind kind, String reason) {
    if (!own.contains(name)) {
      found.add(new Found(statement, Risk.of(kind, "collection " + name, reason)));
    }
  }
}
