package org.wornladder.entity;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.jboss.jandex.ClassInfo;
import org.jboss.jandex.Index;

/**
 * Compiled classes in folders and jars. They are read, and never loaded: nothing of the application
 * runs.
 */
final class ClassPath implements AutoCloseable {
  private static final String CLASS = ".class";

  private final List<Path> folders = new ArrayList<>();
  private final List<ZipFile> jars = new ArrayList<>();

  /** The classes among which entities are looked for. */
  private final TreeSet<String> named = new TreeSet<>();

  private final Map<String, Optional<ClassInfo>> read = new LinkedHashMap<>();

  /**
   * @param places folders of classes and jars, in which entities are looked for, and folders of
   *     jars, in which only classes are found that others name
   * @throws ModelException if one is not there, or cannot be read
   */
  ClassPath(List<Path> places) {
    try {
      for (Path place : places) {
        add(place);
      }
    } catch (IOException e) {
      close();
      throw new ModelException(
          "the classes cannot be read: " + e.getMessage(),
          places.toString(),
          "see that they are there and may be read");
    }
  }

  private void add(Path place) throws IOException {
    if (Files.isDirectory(place)) {
      folders.add(place);
      try (Stream<Path> files = Files.walk(place)) {
        for (Path file : files.filter(Files::isRegularFile).toList()) {
          String name = place.relativize(file).toString().replace('\\', '/');
          if (name.endsWith(CLASS)) {
            note(name);
          } else if (name.endsWith(".jar")) {
            jars.add(new ZipFile(file.toFile()));
          }
        }
      }
    } else if (Files.isRegularFile(place)) {
      ZipFile jar = new ZipFile(place.toFile());
      jars.add(jar);
      jar.stream().map(ZipEntry::getName).filter(name -> name.endsWith(CLASS)).forEach(this::note);
    } else {
      throw new ModelException(
          "there is no such folder or jar",
          place.toString(),
          "compile the application first, and name the folder of its classes");
    }
  }

  private void note(String file) {
    if (!file.endsWith("module-info.class") && !file.startsWith("META-INF/")) {
      named.add(file.substring(0, file.length() - CLASS.length()));
    }
  }

  /** The names of the classes among which entities are looked for, with slashes. */
  List<String> names() {
    return List.copyOf(named);
  }

  /**
   * A class; empty if it is not on the path.
   *
   * @param name with slashes
   * @throws ModelException if it is no class file that can be read
   */
  Optional<ClassInfo> find(String name) {
    return read.computeIfAbsent(name, this::readClass);
  }

  private Optional<ClassInfo> readClass(String name) {
    try {
      Optional<byte[]> bytes = bytes(name + CLASS);
      if (bytes.isEmpty()) {
        return Optional.empty();
      }
      return Optional.of(Index.singleClass(bytes.get()));
    } catch (IOException | RuntimeException e) {
      // What a broken file holds is met by any exception.
      throw new ModelException(
          "this is no class file that can be read: " + e.getMessage(),
          name + CLASS,
          "compile it again, for a Java that is known");
    }
  }

  private Optional<byte[]> bytes(String file) throws IOException {
    for (Path folder : folders) {
      Path path = folder.resolve(file);
      if (Files.isRegularFile(path)) {
        return Optional.of(Files.readAllBytes(path));
      }
    }
    for (ZipFile jar : jars) {
      ZipEntry entry = jar.getEntry(file);
      if (entry != null) {
        try (InputStream in = jar.getInputStream(entry)) {
          return Optional.of(in.readAllBytes());
        }
      }
    }
    return Optional.empty();
  }

  @Override
  public void close() {
    for (ZipFile jar : jars) {
      try {
        jar.close();
      } catch (IOException e) {
        // It was only read.
        continue;
      }
    }
  }
}
