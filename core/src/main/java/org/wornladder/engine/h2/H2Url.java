package org.wornladder.engine.h2;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A URL of H2 (its documentation, "Database URL Overview"), a relative file taken from the
 * project's folder, user and password taken out.
 *
 * @param jdbc for the driver; holds neither user nor password
 * @param file the database's file; empty for one in memory or on a server
 * @param shared whether other programs may have it open at the same time
 */
record H2Url(
    String jdbc,
    Optional<Path> file,
    boolean shared,
    Optional<String> user,
    Optional<String> password,
    String shown) {
  private static final String FILE = "file:";
  private static final String ENDING = ".mv.db";

  static H2Url of(String url, Path root) {
    String[] parts = url.substring(H2Engine.JDBC.length()).split(";", -1);
    Optional<String> user = Optional.empty();
    Optional<String> password = Optional.empty();
    boolean shared = parts[0].startsWith("tcp:") || parts[0].startsWith("ssl:");
    List<String> kept = new ArrayList<>();
    for (int i = 1; i < parts.length; i++) {
      String setting = parts[i].toUpperCase(Locale.ROOT);
      String value = parts[i].substring(parts[i].indexOf('=') + 1);
      if (setting.startsWith("USER=")) {
        user = Optional.of(value);
      } else if (setting.startsWith("PASSWORD=")) {
        password = Optional.of(value);
      } else if (!setting.isEmpty()) {
        kept.add(";" + parts[i]);
        shared |= setting.equals("AUTO_SERVER=TRUE");
      }
    }
    Optional<Path> file = file(parts[0], root);
    String place = file.map(path -> FILE + path).orElse(parts[0]);
    String shown = parts[0].startsWith(FILE) ? parts[0].substring(FILE.length()) : parts[0];
    return new H2Url(
        H2Engine.JDBC + place + String.join("", kept), file, shared, user, password, shown);
  }

  private static Optional<Path> file(String place, Path root) {
    boolean named = place.startsWith(FILE);
    if (!named && place.matches("[a-z0-9]{2,}:.*")) {
      return Optional.empty();
    }
    String path = named ? place.substring(FILE.length()) : place;
    String home = System.getProperty("user.home");
    String whole = path.startsWith("~/") ? home + path.substring(1) : path;
    return Optional.of(root.resolve(whole).toAbsolutePath().normalize());
  }

  /** Whether opening it runs statements that the url holds. */
  boolean runsStatements() {
    return jdbc.toUpperCase(Locale.ROOT).contains(";INIT=");
  }

  boolean isThere() {
    return file.isEmpty() || Files.exists(Path.of(file.get() + ENDING));
  }
}
