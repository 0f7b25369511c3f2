package org.wornladder.sql;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;

/**
 * The hash of what a text means: SHA-256 (FIPS 180-4) over its tokens with one blank between them.
 * Layout and plain comments do not count; letter case and comments that an engine heeds do.
 */
public final class Fingerprint {
  private final StringBuilder parts = new StringBuilder();

  /** A hash that begins with whose tokens they are, and which version of the lexer reads them. */
  public static Fingerprint by(Dialect dialect) {
    return new Fingerprint().line(dialect.name() + " " + Lexer.VERSION);
  }

  /** Adds a line of fixed text, such as a directive that steers a run. */
  public Fingerprint line(String text) {
    parts.append(text).append('\n');
    return this;
  }

  /** Adds the tokens of a script; text that the dialect cannot read counts as it is. */
  public Fingerprint script(String text, Dialect dialect) {
    String lines = text.replace("\r\n", "\n");
    int mark = parts.length();
    try {
      tokens(lines, dialect);
    } catch (SqlTextException e) {
      parts.setLength(mark);
      parts.append(lines);
    }
    parts.append('\n');
    return this;
  }

  private void tokens(String text, Dialect dialect) {
    if (dialect.has(Dialect.Trait.JSON)) {
      JsonCommands.split(text, dialect, Place.of("script"))
          .forEach(command -> line(JsonCommands.compact(command.text())));
      return;
    }
    Lexer lexer = new Lexer(text, dialect);
    boolean ended = false;
    boolean any = false;
    while (lexer.advance()) {
      if (lexer.kind() == TokenKind.END) {
        // The last end mark, and empty statements, mean nothing.
        ended = true;
      } else if (lexer.kind().isMeaning()) {
        if (any) {
          parts.append(ended ? " ; " : " ");
        }
        parts.append(text, lexer.start(), lexer.end());
        any = true;
        ended = false;
      }
    }
  }

  /** The hash as 64 hexadecimal digits. */
  public String hex() {
    return sha256(parts.toString());
  }

  /** SHA-256 of a text in UTF-8, as 64 hexadecimal digits. */
  public static String sha256(String text) {
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    return HexFormat.of().formatHex(newDigest().digest(bytes));
  }

  /** SHA-256 over several texts, each preceded by its length so that none can run into the next. */
  public static String ofParts(List<String> texts) {
    Parts parts = new Parts();
    texts.forEach(parts::add);
    return parts.hex();
  }

  /** SHA-256 over many texts that need not be in memory at once. */
  public static final class Parts {
    private final MessageDigest digest = newDigest();

    /** Adds any text, preceded by its length, so that it cannot run into the next. */
    public void add(String text) {
      raw(text.length() + ":" + text);
    }

    /** Adds a text as it is: one that does not begin like a length. */
    public void mark(String text) {
      raw(text);
    }

    private void raw(String text) {
      digest.update(text.getBytes(StandardCharsets.UTF_8));
    }

    /** The hash as 64 hexadecimal digits; nothing can be added after it. */
    public String hex() {
      return HexFormat.of().formatHex(digest.digest());
    }
  }

  /** A new SHA-256 computation. */
  public static MessageDigest newDigest() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform has SHA-256", e);
    }
  }
}
