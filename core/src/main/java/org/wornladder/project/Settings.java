package org.wornladder.project;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * What {@code ladder.yaml} says, before variables are read.
 *
 * @param environments by name, in the order of the file; never empty
 * @param journalOwner who else than the connection's own user may own the tool's tables
 * @param ignore patterns of what the project leaves to others, such as {@code table:legacy_*}
 * @param scratch where scratch databases are made; empty for beside the environment's own
 * @param entities how entity classes are read
 * @param seeds in the order of the file
 * @param defaultEnvironment the one meant when a command names none
 */
public record Settings(
    String name,
    String defaultEnvironment,
    Numbering numbering,
    Map<String, EnvironmentSettings> environments,
    Map<String, Template> values,
    String journalTable,
    Optional<String> journalOwner,
    List<String> ignore,
    Optional<ScratchSettings> scratch,
    EntitySettings entities,
    List<Seed> seeds) {
  private static final Pattern DRIVER = Pattern.compile("jdbc:([\\w-]+):");

  /** How the next rung gets its number. */
  public enum Numbering {
    SEQUENCE,
    TIMESTAMP
  }

  /** The words behind {@code jdbc:} in the environments' URLs, as they stand there. */
  public Set<String> driverNames() {
    return environments.values().stream()
        .map(environment -> DRIVER.matcher(environment.url().text()))
        .filter(Matcher::lookingAt)
        .map(matcher -> matcher.group(1).toLowerCase(Locale.ROOT))
        .collect(Collectors.toSet());
  }

  /** The names of all environments, in the order of the file. */
  public List<String> environmentNames() {
    return List.copyOf(environments.keySet());
  }
}
