package org.wornladder.engine.document;

import java.util.Set;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonString;
import org.bson.BsonValue;

/** What is known of database commands by their names (the manual's "Database Commands"). */
final class DocumentCommands {
  private static final String WRITE_CONCERN = "writeConcern";
  private static final String READ_CONCERN = "readConcern";
  private static final String AGGREGATE = "aggregate";

  /** Commands of a session or a transaction: the session is the program's own. */
  private static final Set<String> OF_SESSIONS =
      Set.of(
          "startSession",
          "endSessions",
          "killSessions",
          "commitTransaction",
          "abortTransaction",
          "getMore",
          "killCursors",
          "logout",
          "authenticate",
          "saslStart");

  /** Those that write documents, and can be part of a transaction ("Transactions"). */
  private static final Set<String> OF_DOCUMENTS =
      Set.of("insert", "update", "delete", "findAndModify");

  /** Others that can be asked for the servers on which their effect must be ("Write Concern"). */
  private static final Set<String> OF_STRUCTURE =
      Set.of(
          "create",
          "collMod",
          "createIndexes",
          "dropIndexes",
          "drop",
          "renameCollection",
          "convertToCapped",
          "createUser",
          "updateUser",
          "dropUser",
          "grantRolesToUser",
          "revokeRolesFromUser",
          "createRole",
          "updateRole",
          "dropRole",
          "grantPrivilegesToRole",
          "revokePrivilegesFromRole",
          "grantRolesToRole",
          "revokeRolesFromRole");

  /** The rest of those that rungs use. */
  private static final Set<String> OTHERS =
      Set.of(
          AGGREGATE,
          "createSearchIndexes",
          "updateSearchIndex",
          "dropSearchIndex",
          "reIndex",
          "compact",
          "validate",
          "ping");

  private DocumentCommands() {}

  static boolean isKnown(String name) {
    return OF_DOCUMENTS.contains(name) || OF_STRUCTURE.contains(name) || OTHERS.contains(name);
  }

  static boolean isOfSessions(String name) {
    return OF_SESSIONS.contains(name);
  }

  /**
   * Whether a command can be part of a transaction: it writes documents, and asks for nothing that
   * only the transaction as a whole can be asked for.
   */
  static boolean joinsTransaction(BsonDocument command) {
    return OF_DOCUMENTS.contains(command.getFirstKey())
        && !command.containsKey(WRITE_CONCERN)
        && !command.containsKey(READ_CONCERN);
  }

  /**
   * The command with the wish that most servers have what it did before it is answered, unless it
   * says itself how many.
   */
  static BsonDocument onMostServers(BsonDocument command) {
    String name = command.getFirstKey();
    boolean writes =
        OF_DOCUMENTS.contains(name) || OF_STRUCTURE.contains(name) || isWritingPipeline(command);
    return writes && !command.containsKey(WRITE_CONCERN)
        ? command.clone().append(WRITE_CONCERN, new BsonDocument("w", new BsonString("majority")))
        : command;
  }

  /** Whether the last stage of an aggregation writes what it comes to. */
  private static boolean isWritingPipeline(BsonDocument command) {
    BsonValue stages = command.get("pipeline");
    if (!command.getFirstKey().equals(AGGREGATE) || stages == null || !stages.isArray()) {
      return false;
    }
    BsonArray pipeline = stages.asArray();
    BsonValue last = pipeline.isEmpty() ? new BsonDocument() : pipeline.get(pipeline.size() - 1);
    return last.isDocument()
        && (last.asDocument().containsKey("$merge") || last.asDocument().containsKey("$out"));
  }
}
