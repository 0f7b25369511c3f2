package org.wornladder.execution;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import javax.sql.DataSource;
import org.wornladder.UnreachableException;
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

  /**
   * The JDBC URL of an environment whose connections come from the program around; empty if they do
   * not.
   *
   * @throws UnreachableException if there is no connection to be had
   */
  Optional<String> url(String environment) {
    DataSource source = dataSources.get(environment);
    if (source == null) {
      return Optional.empty();
    }
    try (Connection connection = source.getConnection()) {
      return Optional.of(connection.getMetaData().getURL());
    } catch (SQLException e) {
      throw new UnreachableException(
          "the program's data source gives no connection: " + e.getMessage(),
          "environment " + environment,
          "see that the data source is set up",
          e);
    }
  }

  /** Now, as rungs are numbered by time. */
  public String timestamp() {
    return ProjectWriter.TIMESTAMP.format(LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC));
  }

  /** An environment's database, and how long to wait for it. */
  public Target target(Environment environment, Path root) {
    return new Target(
        environment,
        environment.isStandIn()
            ? Optional.empty()
            : Optional.ofNullable(dataSources.get(environment.name())),
        root,
        lockWait,
        await,
        onWait);
  }
}
