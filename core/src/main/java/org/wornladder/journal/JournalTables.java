package org.wornladder.journal;

import static org.wornladder.engine.OwnTable.OwnColumn.filled;

import java.util.List;
import org.wornladder.engine.OwnTable;
import org.wornladder.engine.OwnTable.Content;
import org.wornladder.engine.OwnTable.OwnColumn;

/** The forms of the tool's own tables. */
final class JournalTables {
  private JournalTables() {}

  static OwnTable journal(String name) {
    return new OwnTable(
        name,
        List.of(
            filled("number", Content.NUMBER),
            filled("at", Content.WORD),
            filled("project", Content.TEXT),
            filled("event", Content.WORD),
            new OwnColumn("rung", Content.NUMBER, false),
            filled("name", Content.TEXT),
            filled("up_text", Content.WORD),
            filled("up_fingerprint", Content.WORD),
            filled("down_fingerprint", Content.WORD),
            filled("script", Content.SCRIPT),
            filled("statement", Content.SMALL),
            filled("elapsed_ms", Content.NUMBER),
            filled("database_user", Content.TEXT),
            filled("os_user", Content.TEXT),
            filled("host", Content.TEXT),
            filled("session", Content.TEXT),
            filled("tool", Content.TEXT),
            filled("note", Content.SCRIPT),
            filled("previous_hash", Content.WORD),
            filled("hash", Content.WORD)));
  }

  static OwnTable snapshots(String name) {
    return new OwnTable(
        name,
        List.of(
            filled("number", Content.NUMBER),
            filled("at", Content.WORD),
            filled("project", Content.TEXT),
            filled("moment", Content.WORD),
            filled("entry", Content.NUMBER),
            filled("fingerprint", Content.WORD),
            filled("content", Content.SCRIPT)));
  }
}
