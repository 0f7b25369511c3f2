package org.wornladder.cli.archive;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.stream.Stream;
import java.util.zip.CRC32;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;

/**
 * Writes the libraries' jars again in the form that starts fastest: stored without compression, and
 * old classes with stack maps. The native libraries are left out, since the distribution holds them
 * as files. Run by the build; doing it twice changes nothing.
 */
public final class LibraryJars {
  private static final String NATIVE = "org/sqlite/native/";
  private static final String NOTICE = "META-INF/CHANGED-BY-WORN-LADDER.txt";
  private static final String CHANGED =
      "Old class files in this jar were given stack maps when Worn Ladder was built.\n";

  private LibraryJars() {}

  /**
   * @param args the folder that holds the jars
   */
  public static void main(String[] args) throws IOException {
    List<Path> jars;
    try (Stream<Path> files = Files.list(Path.of(args[0]))) {
      jars = files.filter(file -> file.toString().endsWith(".jar")).toList();
    }
    for (Path jar : jars) {
      Path stored = Files.createTempFile(jar.getParent(), "stored", "");
      try (ZipFile from = new ZipFile(jar.toFile());
          OutputStream file = Files.newOutputStream(stored);
          ZipOutputStream to = new ZipOutputStream(file)) {
        write(from, to);
      }
      Files.move(stored, jar, StandardCopyOption.REPLACE_EXISTING);
    }
  }

  private static void write(ZipFile from, ZipOutputStream to) throws IOException {
    boolean changed = false;
    for (ZipEntry entry : from.stream().toList()) {
      String name = entry.getName();
      if (name.startsWith(NATIVE)) {
        continue;
      }
      byte[] content = from.getInputStream(entry).readAllBytes();
      boolean old = name.endsWith(".class") && StackMaps.isOld(content);
      changed |= old;
      store(name, entry.getTime(), old ? StackMaps.into(content) : content, to);
    }
    if (changed) {
      store(NOTICE, 0, CHANGED.getBytes(StandardCharsets.UTF_8), to);
    }
  }

  private static void store(String name, long time, byte[] content, ZipOutputStream to)
      throws IOException {
    CRC32 sum = new CRC32();
    sum.update(content);
    ZipEntry stored = new ZipEntry(name);
    stored.setMethod(ZipEntry.STORED);
    stored.setTime(time);
    stored.setSize(content.length);
    stored.setCrc(sum.getValue());
    to.putNextEntry(stored);
    to.write(content);
    to.closeEntry();
  }
}
