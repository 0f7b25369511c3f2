package org.wornladder.cli.archive;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.jar.Attributes;
import java.util.jar.JarFile;
import java.util.jar.Manifest;
import java.util.stream.Stream;
import java.util.zip.CRC32;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;

/**
 * Writes jars again in the form that starts fastest: stored without compression, old classes with
 * stack maps, lambdas as classes, shorter ways where the libraries go long ones, and brief
 * manifests. The native libraries are left out, since the distribution holds them as files. Run by
 * the build; doing it twice changes nothing.
 */
public final class LibraryJars {
  private static final String NATIVE = "org/sqlite/native/";
  private static final String NOTICE = "META-INF/CHANGED-BY-WORN-LADDER.txt";
  private static final String CLASS = ".class";
  private static final List<Attributes.Name> HEEDED =
      List.of(
          Attributes.Name.MANIFEST_VERSION,
          Attributes.Name.MAIN_CLASS,
          Attributes.Name.CLASS_PATH,
          Attributes.Name.MULTI_RELEASE);
  private static final String CHANGED =
      "When Worn Ladder was built, old class files in this jar were given stack maps, lambdas\n"
          + "classes of their own, and a few calls shorter ways; its manifest was shortened.\n";

  private LibraryJars() {}

  /**
   * @param args jars, and folders that hold some
   */
  public static void main(String[] args) throws IOException {
    List<Path> jars = new ArrayList<>();
    for (String arg : args) {
      Path place = Path.of(arg);
      if (!Files.isDirectory(place)) {
        jars.add(place);
        continue;
      }
      try (Stream<Path> files = Files.list(place)) {
        files.filter(file -> file.toString().endsWith(".jar")).forEach(jars::add);
      }
    }
    for (Path jar : jars) {
      if (!isWritten(jar)) {
        write(jar);
      }
    }
  }

  private static boolean isWritten(Path jar) throws IOException {
    try (ZipFile file = new ZipFile(jar.toFile())) {
      return file.getEntry(NOTICE) != null;
    }
  }

  private static void write(Path jar) throws IOException {
    Path stored = Files.createTempFile(jar.getParent(), "stored", "");
    try (ZipFile from = new ZipFile(jar.toFile());
        OutputStream file = Files.newOutputStream(stored);
        ZipOutputStream to = new ZipOutputStream(file)) {
      write(from, to);
    }
    Files.move(stored, jar, StandardCopyOption.REPLACE_EXISTING);
  }

  private static void write(ZipFile from, ZipOutputStream to) throws IOException {
    boolean changed = false;
    for (ZipEntry entry : from.stream().toList()) {
      String name = entry.getName();
      if (name.startsWith(NATIVE)) {
        continue;
      }
      byte[] content = from.getInputStream(entry).readAllBytes();
      Map<String, byte[]> classes = changed(name, content);
      for (Map.Entry<String, byte[]> one : classes.entrySet()) {
        changed |= one.getValue() != content;
        store(one.getKey(), entry.getTime(), one.getValue(), to);
      }
    }
    if (changed) {
      store(NOTICE, 0, CHANGED.getBytes(StandardCharsets.UTF_8), to);
    }
  }

  /** What comes in the place of a file, by its names in the jar. */
  private static Map<String, byte[]> changed(String name, byte[] content) throws IOException {
    if (name.equals(JarFile.MANIFEST_NAME)) {
      return Map.of(name, brief(content));
    }
    if (!name.endsWith(CLASS) || name.endsWith("module-info" + CLASS)) {
      return Map.of(name, content);
    }
    byte[] lifted = StackMaps.isOld(content) ? StackMaps.into(content) : content;
    Map<String, byte[]> files = new TreeMap<>();
    String folder = name.substring(0, name.lastIndexOf('/') + 1);
    PlainLambdas.in(ShortCalls.in(lifted))
        .forEach(
            (made, code) ->
                files.put(folder + made.substring(made.lastIndexOf('/') + 1) + CLASS, code));
    return files;
  }

  /** A manifest with what Java heeds in it alone: it reads it all at every start. */
  private static byte[] brief(byte[] manifest) throws IOException {
    Attributes given = new Manifest(new ByteArrayInputStream(manifest)).getMainAttributes();
    Manifest brief = new Manifest();
    for (Attributes.Name heeded : HEEDED) {
      if (given.containsKey(heeded)) {
        brief.getMainAttributes().put(heeded, given.get(heeded));
      }
    }
    ByteArrayOutputStream written = new ByteArrayOutputStream();
    brief.write(written);
    return written.toByteArray();
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
