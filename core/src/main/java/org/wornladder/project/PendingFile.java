package org.wornladder.project;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** A file of the project that is written beside the one that it replaces in the end. */
final class PendingFile implements AutoCloseable {
  private final String file;
  private final Path path;
  private final Path part;
  private final Writer out;

  private PendingFile(Path root, String file, boolean isTrial) throws IOException {
    this.file = file;
    path = root.resolve(file);
    part = path.resolveSibling(path.getFileName() + ".part");
    if (isTrial) {
      out = Writer.nullWriter();
      return;
    }
    Files.createDirectories(path.getParent());
    out = Files.newBufferedWriter(part);
  }

  /**
   * Begins a file; one that is there already stays until {@link #replace}.
   *
   * @param file relative to the project
   * @param isTrial whether nothing is written, so that it cannot replace anything
   * @throws ProjectException if it leads out of the project, or cannot be written
   */
  static PendingFile begin(Path root, String file, boolean isTrial) {
    new TextFiles(root).refuseOutside(file);
    try {
      return new PendingFile(root, file, isTrial);
    } catch (IOException e) {
      throw unwritable(file, e);
    }
  }

  Writer out() {
    return out;
  }

  /** Writes what is still in memory, so that a full disk is found before anything is replaced. */
  void complete() {
    try {
      out.close();
    } catch (IOException e) {
      throw unwritable(e);
    }
  }

  /** Puts the file in its place. */
  void replace() {
    try {
      Files.move(part, path, StandardCopyOption.ATOMIC_MOVE);
    } catch (IOException e) {
      throw unwritable(e);
    }
  }

  ProjectException unwritable(IOException e) {
    return unwritable(file, e);
  }

  private static ProjectException unwritable(String file, IOException e) {
    return ProjectException.of(
        Place.of(file), "the file cannot be written: " + TextFiles.reason(e), "");
  }

  /** Leaves nothing behind of a file that was not put in its place. */
  @Override
  public void close() {
    try (out) {
      Files.deleteIfExists(part);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
