package org.wornladder.server;

import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.wornladder.TestLadder;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engines;
import org.wornladder.engine.Session;
import org.wornladder.engine.Target;
import org.wornladder.project.Environment;
import org.wornladder.project.EnvironmentReader;
import org.wornladder.project.ProjectReader;

/** Sessions as the program opens them. */
public final class TestSession {
  private TestSession() {}

  public static Session open(TestDatabase database, Path root, Access access) {
    TestLadder.on(database, root);
    return open(root, access);
  }

  /** One that manages some schemas. */
  public static Session open(
      TestDatabase database, Path root, Access access, List<String> schemas) {
    String listed = schemas.isEmpty() ? "" : ", schemas: [" + String.join(", ", schemas) + "]";
    TestLadder.on(database, root).settings(database, listed);
    return open(root, access);
  }

  private static Session open(Path root, Access access) {
    Environment environment =
        new EnvironmentReader(
                root, ProjectReader.read(root, name -> false).settings(), name -> Optional.empty())
            .read(Optional.of("dev"));
    Target target =
        new Target(
            environment, Optional.empty(), root, Duration.ofSeconds(5), Duration.ZERO, what -> {});
    return Engines.of(environment).open(target, access);
  }
}
