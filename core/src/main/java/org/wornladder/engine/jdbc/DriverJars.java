package org.wornladder.engine.jdbc;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.MalformedURLException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Driver;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import org.wornladder.UnreachableException;
import org.wornladder.engine.Target;
import org.wornladder.project.Environment;

/**
 * Finds the JDBC driver of a URL: on the class path of the program, or in a jar under {@code
 * drivers/} of the project or of the installation, in a class loader of its own.
 */
final class DriverJars {
  /** The property that names the installation's folder of drivers. */
  private static final String INSTALLED = "ladder.drivers";

  private static final String ANOTHER_JAR =
      "see whether it needs another jar beside it in drivers/, or options of Java in"
          + " JAVA_TOOL_OPTIONS";

  private static final String FOLDER = "drivers";
  private static final String SERVICE = "META-INF/services/java.sql.Driver";

  /** An embedded database lives in the loader of its driver, so that one is used again. */
  private static final Map<List<Path>, URLClassLoader> LOADERS = new ConcurrentHashMap<>();

  private final Environment environment;
  private final String url;
  private final List<Path> folders;

  private DriverJars(Target target) {
    environment = target.environment();
    url = environment.url();
    folders = new ArrayList<>(List.of(target.root().resolve(FOLDER)));
    Optional.ofNullable(System.getProperty(INSTALLED)).map(Path::of).ifPresent(folders::add);
  }

  /** A connection to the database. */
  static Connection connect(Target target) throws SQLException {
    Properties properties = new Properties();
    Environment environment = target.environment();
    environment.user().ifPresent(user -> properties.setProperty("user", user));
    environment.password().ifPresent(word -> properties.setProperty("password", word));
    DriverJars jars = new DriverJars(target);
    try {
      Connection connection = jars.driver().connect(environment.url(), properties);
      if (connection == null) {
        throw new SQLException("the driver does not know this url", "08001");
      }
      return connection;
    } catch (NoClassDefFoundError e) {
      throw jars.unusable("the driver needs " + e.getMessage(), ANOTHER_JAR, e);
    }
  }

  /** Another connection to the database of a session, from the same source. */
  static Connection connectAnew(Target target) throws SQLException {
    return target.dataSource().isPresent()
        ? target.dataSource().get().getConnection()
        : connect(target);
  }

  private String where() {
    return "environment " + environment.name() + " in ladder.yaml";
  }

  private UnreachableException unusable(String what, String next, Throwable cause) {
    return new UnreachableException(what, where(), next, cause);
  }

  private Driver driver() throws SQLException {
    if (environment.settings().driver().isPresent()) {
      return named(environment.settings().driver().get());
    }
    for (Driver driver : Collections.list(DriverManager.getDrivers())) {
      if (driver.acceptsURL(url)) {
        return driver;
      }
    }
    Map<String, Driver> found = inJars();
    if (found.isEmpty()) {
      throw unusable(
          jars().isEmpty()
              ? "no engine here knows this url, and no JDBC driver is there"
              : "no engine here knows this url, and no driver in " + names(jars()) + " does",
          "built in are jdbc:sqlite:, jdbc:postgresql:, jdbc:mariadb: and jdbc:h2:; for another"
              + " engine put its driver's jar into "
              + folders.get(0)
              + "; where it names no driver, driver: CLASS in ladder.yaml does",
          null);
    }
    if (found.size() > 1) {
      throw unusable(
          "two drivers take this url: " + String.join(" and ", found.keySet()),
          "take one of them out of " + FOLDER + "/, or name its class by driver: in ladder.yaml",
          null);
    }
    return found.values().iterator().next();
  }

  private static String names(List<Path> jars) {
    return String.join(", ", jars.stream().map(jar -> jar.getFileName().toString()).toList());
  }

  private List<Path> jars() {
    List<Path> jars = new ArrayList<>();
    for (Path folder : folders) {
      if (Files.isDirectory(folder)) {
        try (Stream<Path> files = Files.list(folder)) {
          files.filter(file -> file.toString().endsWith(".jar")).sorted().forEach(jars::add);
        } catch (IOException e) {
          throw unusable(
              "the folder " + folder + " cannot be read: " + e.getMessage(),
              "see that it may be read",
              e);
        }
      }
    }
    return jars;
  }

  private URLClassLoader loader() {
    return LOADERS.computeIfAbsent(jars(), DriverJars::loader);
  }

  /** The program's own libraries are hidden from a driver. */
  private static URLClassLoader loader(List<Path> jars) {
    URL[] urls = new URL[jars.size()];
    for (int i = 0; i < urls.length; i++) {
      try {
        urls[i] = jars.get(i).toUri().toURL();
      } catch (MalformedURLException e) {
        throw new IllegalStateException(e);
      }
    }
    return new URLClassLoader(urls, ClassLoader.getPlatformClassLoader());
  }

  /** The drivers that take the URL, by the class and the jar that names it. */
  private Map<String, Driver> inJars() throws SQLException {
    Map<String, Driver> found = new TreeMap<>();
    try {
      for (URL services : Collections.list(loader().findResources(SERVICE))) {
        String jar = jarOf(services);
        for (String name : classNames(services)) {
          Driver driver = made(name, loader());
          if (driver.acceptsURL(url)) {
            found.put(name + " in " + jar, driver);
          }
        }
      }
    } catch (IOException e) {
      throw unusable("a jar in drivers/ cannot be read: " + e.getMessage(), "replace it", e);
    }
    return found;
  }

  private static String jarOf(URL services) {
    String path = services.getPath();
    int end = path.indexOf("!/");
    String jar = end < 0 ? path : path.substring(0, end);
    return jar.substring(jar.lastIndexOf('/') + 1);
  }

  private static List<String> classNames(URL services) throws IOException {
    try (BufferedReader lines =
        new BufferedReader(new InputStreamReader(services.openStream(), StandardCharsets.UTF_8))) {
      return lines
          .lines()
          .map(line -> line.replaceFirst("#.*", "").strip())
          .filter(line -> !line.isEmpty())
          .toList();
    }
  }

  private Driver named(String name) {
    try {
      Class<?> onPath = Class.forName(name, false, DriverJars.class.getClassLoader());
      return made(name, onPath.getClassLoader());
    } catch (ClassNotFoundException e) {
      return made(name, loader());
    }
  }

  private Driver made(String name, ClassLoader loader) {
    try {
      return (Driver) Class.forName(name, true, loader).getDeclaredConstructor().newInstance();
    } catch (UnsupportedClassVersionError e) {
      throw unusable(
          "the driver "
              + name
              + " is made for a newer Java than "
              + Runtime.version().feature()
              + ", with which this runs",
          "put an older version of the driver into drivers/, or run with a newer Java",
          e);
    } catch (ClassNotFoundException e) {
      throw unusable(
          "there is no driver class " + name,
          "put its jar into " + folders.get(0) + ", or correct driver: in ladder.yaml",
          e);
    } catch (ClassCastException e) {
      throw unusable(
          "the class " + name + " is no JDBC driver", "correct driver: in ladder.yaml", e);
    } catch (ReflectiveOperationException | LinkageError e) {
      throw unusable("the driver " + name + " cannot be used: " + rootOf(e), ANOTHER_JAR, e);
    }
  }

  private static Throwable rootOf(Throwable failure) {
    Throwable root = failure;
    while (root.getCause() != null) {
      root = root.getCause();
    }
    return root;
  }
}
