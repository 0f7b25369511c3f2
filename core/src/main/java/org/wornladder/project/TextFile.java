package org.wornladder.project;

import java.io.ByteArrayInputStream;
import java.io.FileInputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CoderResult;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.Optional;
import org.wornladder.sql.Place;

/** Reads the text files of a project: UTF-8, of a sane size, and inside the project only. */
final class TextFile {
  /** Larger files hold rows, which are better kept as seeds; in bytes. */
  static final long LARGEST = 8L << 20;

  private TextFile() {}

  /**
   * The text of a file, as it stands; empty, with a problem collected, if it cannot be used.
   *
   * @param root the project's folder
   * @param file the file's path relative to it
   */
  static Optional<String> read(Path root, String file, Problems problems) {
    Place whole = Place.of(file);
    Path path = root.resolve(file);
    try {
      if (Files.isSymbolicLink(path) && !path.toRealPath().startsWith(root.toRealPath())) {
        problems.error(whole, "this link leads out of the project", "put the file itself here");
        return Optional.empty();
      }
      if (!Files.isRegularFile(path) && Files.exists(path, LinkOption.NOFOLLOW_LINKS)) {
        problems.error(whole, "this is not a file", "move it out of the folder");
        return Optional.empty();
      }
      try (FileInputStream in = new FileInputStream(path.toFile())) {
        long size = in.getChannel().size();
        if (size > LARGEST) {
          String found = "the file is " + (size >> 20) + " MB large; it can be at most 8 MB";
          problems.error(whole, found, "keep rows in seeds/, and split the rest");
          return Optional.empty();
        }
        return decode(in.readAllBytes(), file, problems);
      }
    } catch (IOException e) {
      problems.error(whole, "the file cannot be read: " + reason(e), "see that you may read it");
      return Optional.empty();
    }
  }

  private static Optional<String> decode(byte[] bytes, String file, Problems problems)
      throws IOException {
    String text = new String(bytes, StandardCharsets.UTF_8);
    int nul = text.indexOf('\0');
    if (nul >= 0) {
      Place place = new Place(file, 1, 1).plus(text, nul);
      problems.error(
          place, "this is not a text file: it holds a zero byte", "write it as UTF-8 text");
      return Optional.empty();
    }
    if (text.indexOf('\uFFFD') >= 0) {
      int good = goodLength(bytes);
      if (good >= 0) {
        String before =
            new String(new ByteArrayInputStream(bytes).readNBytes(good), StandardCharsets.UTF_8);
        Place place = new Place(file, 1, 1).plus(before, before.length());
        problems.error(place, "this is not UTF-8", "save the file as UTF-8");
        return Optional.empty();
      }
    }
    return Optional.of(text);
  }

  /** How many bytes are well-formed before the first that is not; -1 if all are. */
  private static int goodLength(byte[] bytes) throws CharacterCodingException {
    CharsetDecoder decoder = StandardCharsets.UTF_8.newDecoder();
    ByteBuffer in = ByteBuffer.wrap(bytes);
    CoderResult result = decoder.decode(in, java.nio.CharBuffer.allocate(bytes.length + 1), true);
    return result.isError() ? in.position() : -1;
  }

  /** The system's own words, without the path that Java puts before them. */
  static String reason(IOException e) {
    String message = String.valueOf(e.getMessage());
    int open = message.lastIndexOf(" (");
    return open >= 0 && message.endsWith(")")
        ? message.substring(open + 2, message.length() - 1)
        : e.getClass().getSimpleName().replace("Exception", "") + " " + message;
  }
}
