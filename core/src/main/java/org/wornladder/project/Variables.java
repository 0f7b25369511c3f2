package org.wornladder.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.wornladder.sql.Place;

/**
 * Where {@code ${NAME}} comes from: the process's environment, then the file that {@code NAME_FILE}
 * names there (a container's secret, which may stand anywhere), then {@code .env}.
 */
final class Variables {
  private static final String FILE = ".env";

  private final Path root;
  private final TextFiles files;
  private final Function<String, Optional<String>> process;
  private Optional<Map<String, String>> dotEnv = Optional.empty();

  Variables(Path root, Function<String, Optional<String>> process) {
    this.root = root;
    this.process = process;
    files = new TextFiles(root);
  }

  /**
   * A setting with its variables put in; empty, with a problem collected, if one is missing.
   *
   * @param user the environment that uses it, for the message
   */
  Optional<String> expand(Template template, String user, Problems problems) {
    String text = template.text();
    StringBuilder out = new StringBuilder();
    int at = 0;
    for (int open = text.indexOf("${"); open >= 0; open = text.indexOf("${", at)) {
      int close = text.indexOf('}', open);
      if (close < 0) {
        problems.error(template.place(), "${ is never closed", "write ${NAME}");
        return Optional.empty();
      }
      String name = text.substring(open + 2, close);
      Optional<String> value = lookUp(name, template.place(), problems);
      if (value.isEmpty()) {
        String found = "the variable " + name + " is not set; " + user + " needs it";
        problems.error(template.place(), found, "set it in the process's environment or in .env");
        return Optional.empty();
      }
      out.append(text, at, open).append(value.get());
      at = close + 1;
    }
    return Optional.of(out.append(text, at, text.length()).toString());
  }

  private Optional<String> lookUp(String name, Place place, Problems problems) {
    Optional<String> direct = process.apply(name);
    if (direct.isPresent()) {
      return direct;
    }
    Optional<String> file = process.apply(name + "_FILE");
    if (file.isPresent()) {
      return secretFile(name, file.get(), place, problems);
    }
    return Optional.ofNullable(dotEnv(problems).get(name));
  }

  private Optional<String> secretFile(String name, String file, Place place, Problems problems) {
    try {
      return Optional.of(Files.readString(root.resolve(file)).stripTrailing());
    } catch (IOException e) {
      String found = name + "_FILE names a file that cannot be read: " + TextFiles.reason(e);
      problems.error(place, found, "see that the file is there and that you may read it");
      return Optional.empty();
    }
  }

  private Map<String, String> dotEnv(Problems problems) {
    if (dotEnv.isEmpty()) {
      Map<String, String> read =
          files.isThere(FILE)
              ? files
                  .read(FILE, problems)
                  .map(text -> DotEnv.read(FILE, text, problems))
                  .orElse(Map.of())
              : Map.of();
      dotEnv = Optional.of(read);
    }
    return dotEnv.get();
  }
}
