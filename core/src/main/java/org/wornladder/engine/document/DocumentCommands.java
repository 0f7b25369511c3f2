package org.wornladder.engine.document;

import java.util.Set;

/**
 * What is known of database commands by their names (the manual's "Database Commands"). It stands
 * without the driver, which a program around the library need not have.
 */
final class DocumentCommands {
  static final String WRITE_CONCERN = "writeConcern";
  private static final String READ_CONCERN = "readConcern";
  static final String AGGREGATE = "aggregate";

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

  /** Whether a command writes documents, or changes what is around them. */
  static boolean isWriting(String name) {
    return OF_DOCUMENTS.contains(name) || OF_STRUCTURE.contains(name);
  }

  /**
   * Whether a command can be part of a transaction: it writes documents, and asks for nothing that
   * only the transaction as a whole can be asked for.
   *
   * @param keys the command's, its name first
   */
  static boolean joinsTransaction(Set<String> keys) {
    return OF_DOCUMENTS.contains(keys.iterator().next())
        && !keys.contains(WRITE_CONCERN)
        && !keys.contains(READ_CONCERN);
  }
}
