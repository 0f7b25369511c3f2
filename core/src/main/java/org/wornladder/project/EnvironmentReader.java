package org.wornladder.project;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** Puts variables into the settings of the environments that are used. */
public final class EnvironmentReader {
  private final Settings settings;
  private final Variables variables;
  private final Function<String, Optional<String>> urls;
  private final Map<String, Optional<String>> known = new ConcurrentHashMap<>();

  /**
   * @param process the process's environment variables, by name
   */
  public EnvironmentReader(
      Path root, Settings settings, Function<String, Optional<String>> process) {
    this(root, settings, process, name -> Optional.empty());
  }

  /**
   * @param process the process's environment variables, by name
   * @param urls the JDBC URLs of environments whose connections come from the program around, by
   *     name: their settings' url, user and password are not read
   */
  public EnvironmentReader(
      Path root,
      Settings settings,
      Function<String, Optional<String>> process,
      Function<String, Optional<String>> urls) {
    this.urls = urls;
    this.settings = settings;
    variables = new Variables(root, process);
  }

  /**
   * An environment by name; the default one if none is named.
   *
   * @throws ProjectException if there is none of that name, or a variable is missing
   */
  public Environment read(Optional<String> name) {
    return read(settingsOf(name.orElseGet(settings::defaultEnvironment)));
  }

  /**
   * An environment out of its settings.
   *
   * @throws ProjectException if a variable is missing
   */
  public Environment read(EnvironmentSettings found) {
    Problems problems = new Problems();
    Optional<String> given = known.computeIfAbsent(found.name(), urls);
    boolean own = given.isEmpty();
    Environment environment =
        new Environment(
            found,
            given.orElseGet(() -> expand(found.url(), found.name(), problems)),
            found.user().filter(user -> own).map(user -> expand(user, found.name(), problems)),
            found
                .password()
                .filter(password -> own)
                .map(password -> expand(password, found.name(), problems)),
            found.role().map(role -> expand(role, found.name(), problems)),
            values(found, problems));
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    return environment;
  }

  /** An environment's url with its variables put in; empty if one of them is not set. */
  public Optional<String> url(EnvironmentSettings found) {
    return variables.expand(found.url(), found.name(), new Problems());
  }

  private EnvironmentSettings settingsOf(String name) {
    EnvironmentSettings found = settings.environments().get(name);
    if (found == null) {
      throw ProjectException.of(
          Place.of(ProjectReader.SETTINGS),
          "there is no environment '" + name + "'",
          NearestWord.advice(name, settings.environmentNames()));
    }
    return found;
  }

  private String expand(Template template, String user, Problems problems) {
    return variables.expand(template, user, problems).orElse("");
  }

  private Map<String, Value> values(EnvironmentSettings environment, Problems problems) {
    Map<String, Template> written = new LinkedHashMap<>(settings.values());
    written.putAll(environment.values());
    Map<String, Value> values = new LinkedHashMap<>();
    written.forEach(
        (name, template) -> {
          String text = expand(template, environment.name(), problems);
          values.put(name, new Value(text, template.hasVariable()));
        });
    values.put("environment", new Value(environment.name(), false));
    return values;
  }
}
