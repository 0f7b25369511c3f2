package org.wornladder.engine;

import java.util.Collection;
import java.util.Optional;
import java.util.function.Function;
import org.wornladder.project.EnvironmentReader;
import org.wornladder.project.EnvironmentSettings;
import org.wornladder.project.Project;
import org.wornladder.sql.Dialect;

/** The engines of a project's environments, as far as their urls say them. */
public final class UrlEngines {
  private final Project project;
  private final EnvironmentReader urls;

  /**
   * @param variables the process's environment variables, by name
   */
  public UrlEngines(Project project, Function<String, Optional<String>> variables) {
    this.project = project;
    urls = new EnvironmentReader(project.root(), project.settings(), variables);
  }

  /** An environment's engine; empty if its url needs a variable that is not set, or is of none. */
  public Optional<Engine> of(EnvironmentSettings settings) {
    return Engines.forUrl(urls.url(settings).orElse(settings.url().text()));
  }

  /** Whether an environment's engine is not known because a variable is not set. */
  public boolean isOpen(EnvironmentSettings settings) {
    return urls.url(settings).isEmpty() && of(settings).isEmpty();
  }

  /**
   * Whether the project is for document databases: all environments of which the engine is known,
   * or all rungs where none is.
   */
  public boolean areOfDocuments() {
    Collection<EnvironmentSettings> all = project.settings().environments().values();
    boolean known = all.stream().anyMatch(settings -> of(settings).isPresent());
    return known
        ? all.stream()
            .flatMap(settings -> of(settings).stream())
            .allMatch(engine -> engine.dialect().has(Dialect.Trait.JSON))
        : !project.rungs().isEmpty()
            && project.rungs().stream().allMatch(rung -> rung.script().isOfCommands());
  }
}
