package org.wornladder.project;

import java.io.File;
import java.io.FileInputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CoderResult;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/**
 * Reads the text files of a project: UTF-8, of a sane size, and inside the project only. By the
 * older of Java's two ways to files, which is much the faster one in a program that has just
 * started.
 */
final class TextFiles {
  /** Larger files hold rows, which are better kept as seeds; in bytes. */
  static final int LARGEST = 64 << 20;

  /** The same in words. */
  static final String MOST = (LARGEST >> 20) + " MB";

  private static final String NO_FILE = "this is no plain file, but a pipe or a device";
  private static final String PUT_FILE = "put a file here";

  private final File root;
  private final String inside;

  /** Most files fit; it serves one after the other. */
  private final byte[] buffer = new byte[1 << 14];

  /**
   * @param root the project's folder, absolute
   */
  TextFiles(Path root) {
    this.root = root.toFile();
    this.inside = canonical(this.root) + File.separator;
  }

  private static String canonical(File file) {
    try {
      return file.getCanonicalPath();
    } catch (IOException e) {
      return file.getPath();
    }
  }

  /** Whether a file or folder is there. */
  boolean isThere(String file) {
    return new File(root, file).exists();
  }

  /** The names of the files in a folder that have an ending, sorted; none if it is not there. */
  List<String> names(String folder, String ending) {
    String[] all = new File(root, folder).list();
    List<String> names = new ArrayList<>();
    if (all != null) {
      for (String name : all) {
        if (name.endsWith(ending)) {
          names.add(name);
        }
      }
    }
    names.sort(null);
    return names;
  }

  /**
   * The bytes of a file.
   *
   * @param file the file's path relative to the project
   * @throws ProjectException if a link leads out of the project
   */
  FileInputStream open(String file) throws IOException {
    refuseOutside(file);
    File path = new File(root, file);
    if (isPipeOrDevice(path)) {
      throw ProjectException.of(Place.of(file), NO_FILE, PUT_FILE);
    }
    return new FileInputStream(path);
  }

  /** Reading one may never end. */
  private static boolean isPipeOrDevice(File path) {
    return path.exists() && !path.isFile() && !path.isDirectory();
  }

  /** Whether a file is larger than this many bytes. */
  boolean isLarger(String file, long most) {
    return new File(root, file).length() > most;
  }

  /**
   * Refuses a file that lies outside of the project.
   *
   * @throws ProjectException if it does
   */
  void refuseOutside(String file) {
    if (!canonical(new File(root, file)).startsWith(inside)) {
      throw ProjectException.of(
          Place.of(file), "this leads out of the project", "put the file itself here");
    }
  }

  /**
   * The text of a file, as it is; empty, with a problem collected, if it cannot be used.
   *
   * @param file the file's path relative to the project
   */
  Optional<String> read(String file, Problems problems) {
    Place whole = Place.of(file);
    File path = new File(root, file);
    if (!canonical(path).startsWith(inside)) {
      problems.error(whole, "this link leads out of the project", "put the file itself here");
      return Optional.empty();
    }
    if (isPipeOrDevice(path)) {
      problems.error(whole, NO_FILE, PUT_FILE);
      return Optional.empty();
    }
    try (FileInputStream in = new FileInputStream(path)) {
      int length = in.readNBytes(buffer, 0, buffer.length);
      if (length < buffer.length) {
        return decode(buffer, length, file, problems);
      }
      if (path.length() > LARGEST) {
        String found =
            "the file is " + (path.length() >> 20) + " MB large; it can be at most " + MOST;
        problems.error(whole, found, "keep rows in seeds/, and split the rest");
        return Optional.empty();
      }
      byte[] rest = in.readAllBytes();
      byte[] bytes = Arrays.copyOf(buffer, length + rest.length);
      System.arraycopy(rest, 0, bytes, length, rest.length);
      return decode(bytes, bytes.length, file, problems);
    } catch (IOException e) {
      problems.error(whole, "the file cannot be read: " + reason(e), "see that you may read it");
      return Optional.empty();
    }
  }

  private static Optional<String> decode(byte[] bytes, int length, String file, Problems problems)
      throws IOException {
    String text = new String(bytes, 0, length, StandardCharsets.UTF_8);
    int nul = text.indexOf('\0');
    if (nul >= 0) {
      Place place = new Place(file, 1, 1).plus(text, nul);
      problems.error(
          place, "this is not a text file: it holds a zero byte", "write it as UTF-8 text");
      return Optional.empty();
    }
    if (text.indexOf('\uFFFD') >= 0) {
      int good = goodLength(bytes, length);
      if (good >= 0) {
        String before = new String(bytes, 0, good, StandardCharsets.UTF_8);
        Place place = new Place(file, 1, 1).plus(before, before.length());
        problems.error(place, "this is not UTF-8", "save the file as UTF-8");
        return Optional.empty();
      }
    }
    return Optional.of(text);
  }

  /** How many bytes are well-formed before the first that is not; -1 if all are. */
  private static int goodLength(byte[] bytes, int length) throws CharacterCodingException {
    CharsetDecoder decoder = StandardCharsets.UTF_8.newDecoder();
    ByteBuffer in = ByteBuffer.wrap(bytes, 0, length);
    CoderResult result = decoder.decode(in, java.nio.CharBuffer.allocate(length + 1), true);
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
