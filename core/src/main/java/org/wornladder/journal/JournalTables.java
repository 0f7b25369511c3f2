package org.wornladder.journal;

import org.wornladder.engine.Session;
import org.wornladder.engine.StorageTypes;

/** The statements that make the tool's own tables. */
final class JournalTables {
  private JournalTables() {}

  static String journal(Session session, String table, StorageTypes types) {
    return """
        CREATE TABLE %s (
          [number] <number> PRIMARY KEY,
          [at] <word> NOT NULL,
          [project] <text> NOT NULL,
          [event] <word> NOT NULL,
          [rung] <number>,
          [name] <text> NOT NULL,
          [up_text] <word> NOT NULL,
          [up_fingerprint] <word> NOT NULL,
          [down_fingerprint] <word> NOT NULL,
          [script] <script> NOT NULL,
          [statement] <small> NOT NULL,
          [elapsed_ms] <number> NOT NULL,
          [database_user] <text> NOT NULL,
          [os_user] <text> NOT NULL,
          [host] <text> NOT NULL,
          [session] <text> NOT NULL,
          [tool] <text> NOT NULL,
          [note] <script> NOT NULL,
          [previous_hash] <word> NOT NULL,
          [hash] <word> NOT NULL
        )"""
        .transform(text -> OwnSql.of(session, with(text, types)))
        .formatted(session.quoted(table));
  }

  static String snapshots(Session session, String table, StorageTypes types) {
    return """
        CREATE TABLE %s (
          [number] <number> PRIMARY KEY,
          [at] <word> NOT NULL,
          [project] <text> NOT NULL,
          [moment] <word> NOT NULL,
          [entry] <number> NOT NULL,
          [fingerprint] <word> NOT NULL,
          [content] <script> NOT NULL
        )"""
        .transform(text -> OwnSql.of(session, with(text, types)))
        .formatted(session.quoted(table));
  }

  private static String with(String text, StorageTypes types) {
    return text.replace("<number>", types.number())
            .replace("<small>", types.small())
            .replace("<word>", types.word())
            .replace("<text>", types.text())
            .replace("<script>", types.script())
            .replace(StorageTypes.NOT_NULL, types.filled())
        + types.options();
  }
}
