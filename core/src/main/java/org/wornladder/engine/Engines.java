package org.wornladder.engine;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;
import org.wornladder.project.Environment;

/** The engines that are there. */
public final class Engines {
  private static final List<Engine> ALL = load();

  private Engines() {}

  private static List<Engine> load() {
    List<Engine> engines = new ArrayList<>();
    for (Engine engine : ServiceLoader.load(Engine.class, Engine.class.getClassLoader())) {
      engines.add(engine);
    }
    return List.copyOf(engines);
  }

  /** The engine that a URL belongs to; empty if none here knows it. */
  public static Optional<Engine> forUrl(String url) {
    for (Engine engine : ALL) {
      if (engine.accepts(url)) {
        return Optional.of(engine);
      }
    }
    return Optional.empty();
  }

  /**
   * The engine of an environment.
   *
   * @throws UnreachableException if no engine here knows its URL
   */
  public static Engine of(Environment environment) {
    return forUrl(environment.url())
        .orElseThrow(
            () ->
                new UnreachableException(
                    "no engine here knows this url",
                    "environment " + environment.name() + " in ladder.yaml",
                    "this build serves: " + names() + "; for example jdbc:sqlite:data/dev.db",
                    null));
  }

  private static String names() {
    return String.join(", ", ALL.stream().map(Engine::name).toList());
  }
}
