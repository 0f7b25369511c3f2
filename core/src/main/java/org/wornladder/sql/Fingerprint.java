package org.wornladder.sql;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.List;
import java.util.zip.CRC32;

/**
 * The hash of what text means: SHA-256 over its tokens with one blank between them. Layout and
 * plain comments do not count; letter case and comments that an engine heeds do.
 */
public final class Fingerprint {
  private static final char[] HEX = "0123456789abcdef".toCharArray();

  /** To ask the platform for a new one each time would take longer than to use it. */
  private static final ThreadLocal<MessageDigest> DIGEST =
      ThreadLocal.withInitial(Fingerprint::newDigest);

  private final StringBuilder parts = new StringBuilder();

  /** Adds a line of fixed text, such as a directive that steers a run. */
  public Fingerprint line(String text) {
    parts.append(text).append('\n');
    return this;
  }

  /** Adds the tokens of a script; text that the dialect cannot read counts as it stands. */
  public Fingerprint script(String text, Dialect dialect) {
    String lines = text.indexOf('\r') < 0 ? text : text.replace("\r\n", "\n");
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
        parts.append(text.substring(lexer.start(), lexer.end()));
        any = true;
        ended = false;
      }
    }
  }

  /** The hash as 64 hexadecimal digits. */
  public String hex() {
    return sha256(parts.toString());
  }

  /**
   * Two checksums of a text (CRC-32 over its UTF-8, and Java's own over its characters), as 16
   * hexadecimal digits: enough to know a text again that nobody touched, and quick in a program
   * that has just started, where SHA-256 is not. A small edit never goes unnoticed; of large ones,
   * one in 2<sup>64</sup>.
   */
  public static String checksum(String text) {
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    CRC32 crc = new CRC32();
    crc.update(bytes, 0, bytes.length);
    long both = crc.getValue() << 32 | (text.hashCode() & 0xffff_ffffL);
    byte[] parts = new byte[8];
    for (int i = 0; i < 8; i++) {
      parts[i] = (byte) (both >> (56 - 8 * i));
    }
    return hex(parts);
  }

  /** SHA-256 of a text in UTF-8, as 64 hexadecimal digits. */
  public static String sha256(String text) {
    return hex(DIGEST.get().digest(text.getBytes(StandardCharsets.UTF_8)));
  }

  /** SHA-256 over several texts, each preceded by its length so that none can run into the next. */
  public static String ofParts(List<String> texts) {
    StringBuilder all = new StringBuilder();
    for (String text : texts) {
      all.append(Parts.length(text.length())).append(text);
    }
    return sha256(all.toString());
  }

  /** SHA-256 over much that comes bit by bit, and need not be in memory all at once. */
  public static final class Parts {
    private static final int FULL = 1 << 13;

    /** To write a number takes longer than to take one that is written: most texts are short. */
    private static final String[] LENGTHS = new String[64];

    private final MessageDigest digest = newDigest();
    private final StringBuilder waiting = new StringBuilder(2 * FULL);

    /** Adds any text, preceded by its length, so that it cannot run into the next. */
    public void add(String text) {
      waiting.append(length(text.length())).append(text);
      if (waiting.length() > FULL) {
        take();
      }
    }

    /** Adds a text as it is: one that no length begins with. */
    public void mark(String text) {
      waiting.append(text);
    }

    private static String length(int length) {
      if (length >= LENGTHS.length) {
        return length + ":";
      }
      String written = LENGTHS[length];
      if (written == null) {
        written = length + ":";
        LENGTHS[length] = written;
      }
      return written;
    }

    private void take() {
      digest.update(waiting.toString().getBytes(StandardCharsets.UTF_8));
      waiting.setLength(0);
    }

    /** The hash as 64 hexadecimal digits; nothing can be added after it. */
    public String hex() {
      take();
      return Fingerprint.hex(digest.digest());
    }
  }

  private static MessageDigest newDigest() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform has SHA-256", e);
    }
  }

  private static String hex(byte[] bytes) {
    char[] digits = new char[bytes.length * 2];
    for (int i = 0; i < bytes.length; i++) {
      digits[2 * i] = HEX[(bytes[i] >> 4) & 15];
      digits[2 * i + 1] = HEX[bytes[i] & 15];
    }
    return new String(digits);
  }
}
