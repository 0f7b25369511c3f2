package org.wornladder.project;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CoderResult;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.Optional;
import java.util.function.LongConsumer;
import org.wornladder.ProjectException;
import org.wornladder.sql.Fingerprint;
import org.wornladder.sql.Place;

/** A seed's file, to be read as often as is needed. */
final class SeedSource {
  private static final int CHUNK = 1 << 16;
  private static final int COLUMNS = 1 << 20;

  private final Path root;
  private final String file;
  private final LongConsumer onRead;
  private final Optional<String> text;
  private Optional<String> fingerprint = Optional.empty();

  /**
   * @param file relative to the project
   * @param onRead receives the number of bytes, as they are read
   */
  SeedSource(Path root, String file, LongConsumer onRead) {
    this(root, file, onRead, Optional.empty());
  }

  private SeedSource(Path root, String file, LongConsumer onRead, Optional<String> text) {
    this.root = root;
    this.file = file;
    this.onRead = onRead;
    this.text = text;
  }

  /** The file as it would be with another text. */
  SeedSource withText(String other) {
    return new SeedSource(root, file, bytes -> {}, Optional.of(other));
  }

  /** Its text, for a form that needs all of it. */
  Optional<String> text(Problems problems) {
    return text.isPresent() ? text : new TextFiles(root).read(file, problems);
  }

  String file() {
    return file;
  }

  /**
   * The file's bytes.
   *
   * @throws ProjectException if the file leads out of the project
   */
  InputStream open() throws IOException {
    if (text.isPresent()) {
      return new ByteArrayInputStream(text.get().getBytes(StandardCharsets.UTF_8));
    }
    InputStream in = new TextFiles(root).open(file);
    return new InputStream() {
      @Override
      public int read() throws IOException {
        int one = in.read();
        onRead.accept(one < 0 ? 0 : 1);
        return one;
      }

      @Override
      public int read(byte[] buffer, int offset, int length) throws IOException {
        int count = in.read(buffer, offset, length);
        onRead.accept(Math.max(0, count));
        return count;
      }

      @Override
      public void close() throws IOException {
        in.close();
      }
    };
  }

  Place place() {
    return Place.of(file);
  }

  Place place(long line) {
    return new Place(file, (int) Math.min(Integer.MAX_VALUE, line), 0);
  }

  /** A position of a row that may share its line with others. */
  static long position(int line, int column) {
    return (long) line * COLUMNS + Math.min(column, COLUMNS - 1);
  }

  /** The place of a position that {@link #position} made. */
  Place placeOf(long position) {
    return new Place(file, (int) (position / COLUMNS), (int) (position % COLUMNS));
  }

  ProjectException unreadable(IOException e) {
    return ProjectException.of(
        place(),
        "the file cannot be read: " + TextFiles.reason(e),
        "see that it is there and may be read");
  }

  /** How many there are; 0 if the file is not there. */
  long bytes() {
    return text.map(String::length)
        .map(Integer::longValue)
        .orElse(root.resolve(file).toFile().length());
  }

  /** Of the file as it was when this was first asked. */
  String fingerprint() {
    if (fingerprint.isEmpty()) {
      fingerprint = Optional.of(sha256());
    }
    return fingerprint.get();
  }

  private String sha256() {
    byte[] chunk = new byte[CHUNK];
    MessageDigest digest = Fingerprint.newDigest();
    try (InputStream in = new TextFiles(root).open(file)) {
      for (int count = in.read(chunk); count >= 0; count = in.read(chunk)) {
        digest.update(chunk, 0, count);
      }
    } catch (IOException e) {
      throw unreadable(e);
    }
    return HexFormat.of().formatHex(digest.digest());
  }

  /** The line of the first byte that is not UTF-8; the whole file if all are. */
  Place firstMalformed() {
    CharsetDecoder decoder = StandardCharsets.UTF_8.newDecoder();
    ByteBuffer bytes = ByteBuffer.allocate(CHUNK);
    CharBuffer text = CharBuffer.allocate(CHUNK);
    long line = 1;
    try (InputStream in = new TextFiles(root).open(file)) {
      boolean more = true;
      while (more) {
        int count = in.read(bytes.array(), bytes.position(), bytes.remaining());
        more = count >= 0;
        bytes.position(bytes.position() + Math.max(0, count)).flip();
        CoderResult result = decoder.decode(bytes, text, !more);
        line += text.flip().chars().filter(c -> c == '\n').count();
        if (result.isError()) {
          return place(line);
        }
        text.clear();
        bytes.compact();
      }
    } catch (IOException e) {
      throw unreadable(e);
    }
    return place();
  }
}
