package org.wornladder.cli;

import java.nio.file.Files;
import java.nio.file.Path;

/**
 * Points SQLite's driver at the native library that the distribution holds unpacked (the driver's
 * documentation, "Configuration": {@code org.sqlite.lib.path}). Without it the driver unpacks its
 * own copy into the temporary folder at every start.
 */
final class SqliteNativeLibrary {
  /** The folder of native libraries, by operating system and processor; set by the launcher. */
  private static final String FOLDER = "ladder.native";

  private static final String DRIVER_PATH = "org.sqlite.lib.path";

  private SqliteNativeLibrary() {}

  static void locate() {
    String folder = System.getProperty(FOLDER, "");
    if (folder.isEmpty() || System.getProperty(DRIVER_PATH) != null) {
      return;
    }
    Path library = Path.of(folder, operatingSystem(), architecture());
    if (Files.isDirectory(library)) {
      System.setProperty(DRIVER_PATH, library.toString());
    }
  }

  /** As the driver names its folders. */
  private static String operatingSystem() {
    String name = System.getProperty("os.name", "");
    return name.startsWith("Mac") ? "Mac" : name.startsWith("Windows") ? "Windows" : name;
  }

  private static String architecture() {
    String name = System.getProperty("os.arch", "");
    return name.equals("amd64") ? "x86_64" : name;
  }
}
