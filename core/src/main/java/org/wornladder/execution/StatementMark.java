package org.wornladder.execution;

import org.wornladder.project.Secrets;
import org.wornladder.sql.Fingerprint;
import org.wornladder.sql.Statement;

/**
 * What the journal says of one statement, so that it is recognised in a file that was edited since.
 *
 * @param hash over its tokens, secrets masked
 * @param summary how it begins, on one line, secrets masked
 */
public record StatementMark(String hash, String summary) {
  private static final int HASH_LENGTH = 64;
  private static final int SUMMARY_LENGTH = 100;

  static StatementMark of(Statement statement, Secrets secrets) {
    String text = secrets.mask(statement.text());
    String line = text.strip().replaceAll("\\s+", " ");
    return new StatementMark(
        new Fingerprint()
            .script(text, statement.dialect())
            .line(secrets.mask(statement.data()))
            .hex(),
        line.length() > SUMMARY_LENGTH ? line.substring(0, SUMMARY_LENGTH) + " ..." : line);
  }

  /** As it stands in the journal. */
  String text() {
    return hash + " " + summary;
  }

  /** What {@link #text} wrote; nothing is recognised by any other text. */
  static StatementMark parse(String text) {
    return text.length() > HASH_LENGTH
        ? new StatementMark(text.substring(0, HASH_LENGTH), text.substring(HASH_LENGTH + 1))
        : new StatementMark("", text);
  }
}
