package org.wornladder.sql;

/**
 * A script's text that cannot be read: a quote, comment or block that is opened and never closed, a
 * command that only the database's own shell understands, or a command that is not JSON.
 */
public final class SqlTextException extends RuntimeException {
  private final int offset;
  private final String next;

  private SqlTextException(String message, int offset, String next) {
    super(message);
    this.offset = offset;
    this.next = next;
  }

  static SqlTextException unended(String what, int offset) {
    return new SqlTextException(
        "this " + what + " is never ended", offset, "end it, or double the quote inside it");
  }

  static SqlTextException openBlock(int offset) {
    return new SqlTextException(
        "a BEGIN … END block of this statement is never ended",
        offset,
        "write its END, and a semicolon behind each statement in it");
  }

  static SqlTextException shellCommand(String command, String shell, int offset) {
    return new SqlTextException(
        command + " is a command of the shell " + shell + ", not a statement",
        offset,
        "take it out, and write what it stands for as SQL");
  }

  static SqlTextException noEndMark(int offset) {
    return new SqlTextException("DELIMITER names no end mark", offset, "write one, such as //");
  }

  static SqlTextException noJson(String why, int offset) {
    return new SqlTextException(why, offset, "a document database takes commands as JSON alone");
  }

  static SqlTextException noCommand(int offset) {
    return new SqlTextException(
        "a command must be a JSON object",
        offset,
        "write {\"create\": \"bin\"}, or several of them in [ ]");
  }

  /** Where it opens, in characters from the start of the text. */
  public int offset() {
    return offset;
  }

  /** What to do about it. */
  public String next() {
    return next;
  }
}
