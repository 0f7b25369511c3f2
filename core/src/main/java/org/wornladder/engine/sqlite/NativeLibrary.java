package org.wornladder.engine.sqlite;

import java.nio.file.Files;
import java.nio.file.Path;

/**
 * Points the driver at a native library that stands unpacked beside the program. Without one it
 * unpacks its own at every start, which takes longer than all else and wants a writable folder.
 */
final class NativeLibrary {
  /** Names the folder that holds one folder an operating system; set by the launcher. */
  private static final String FOLDER = "ladder.native";

  private static final String DRIVER = "org.sqlite.lib.path";

  private NativeLibrary() {}

  static void locate() {
    String folder = System.getProperty(FOLDER, "");
    if (folder.isEmpty() || System.getProperty(DRIVER) != null) {
      return;
    }
    Path library = Path.of(folder, system(), architecture());
    if (Files.isDirectory(library)) {
      System.setProperty(DRIVER, library.toString());
    }
  }

  /** As the driver names its folders. The driver itself would start a process to find out. */
  private static String system() {
    String name = System.getProperty("os.name", "");
    return name.startsWith("Mac") ? "Mac" : name.startsWith("Windows") ? "Windows" : name;
  }

  private static String architecture() {
    String name = System.getProperty("os.arch", "");
    return name.equals("amd64") ? "x86_64" : name;
  }
}
