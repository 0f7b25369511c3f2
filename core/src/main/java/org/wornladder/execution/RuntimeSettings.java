package org.wornladder.execution;

import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import javax.sql.DataSource;
import org.wornladder.engine.Target;
import org.wornladder.project.Environment;
import org.wornladder.project.ProjectWriter;

/**
 * What a ladder takes from the program around it.
 *
 * @param variables the process's environment variables, by name
 * @param dataSources connections to use instead of the url in the settings, by environment
 * @param lockWait how long to wait for a lock that somebody else holds; zero for not at all
 * @param await how long to wait for a server that does not answer yet; zero for not at all
 * @param onWait receives once what is waited for, if a server is
 * @param retries how often a step is tried again that could not get what somebody else held
 * @param tool the version that is recorded in the journal
 */
public record RuntimeSettings(
    Function<String, Optional<String>> variables,
    Map<String, DataSource> dataSources,
    Duration lockWait,
    Duration await,
    Consumer<String> onWait,
    int retries,
    String tool,
    Clock clock) {
  public RuntimeSettings {
    dataSources = Map.copyOf(dataSources);
  }

  /** The same under another name of the tool. */
  public RuntimeSettings as(String otherTool) {
    return new RuntimeSettings(
        variables, dataSources, lockWait, await, onWait, retries, otherTool, clock);
  }

  /** Now, as rungs are numbered by time. */
  public String timestamp() {
    return ProjectWriter.TIMESTAMP.format(LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC));
  }

  /** An environment's database, and how long to wait for it. */
  public Target target(Environment environment, Path root) {
    return new Target(
        environment,
        Optional.ofNullable(dataSources.get(environment.name())),
        root,
        lockWait,
        await,
        onWait);
  }
}
