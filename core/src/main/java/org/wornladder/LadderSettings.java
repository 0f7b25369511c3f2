package org.wornladder;

import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import org.wornladder.engine.Target;
import org.wornladder.project.Environment;

/**
 * What a ladder takes from the program around it.
 *
 * @param variables the process's environment variables, by name
 * @param lockWait how long to wait for a lock that somebody else holds; zero for not at all
 * @param await how long to wait for a server that does not answer yet; zero for not at all
 * @param onWait told once what is waited for, if a server is
 * @param retries how often a step is tried again that could not get what somebody else held
 * @param tool the version that stands in the journal
 */
public record LadderSettings(
    Function<String, Optional<String>> variables,
    Duration lockWait,
    Duration await,
    Consumer<String> onWait,
    int retries,
    String tool,
    Clock clock) {
  private static final Duration LOCK_WAIT = Duration.ofSeconds(60);

  /** The process's own environment, a minute of patience, the system's clock. */
  public static LadderSettings standard(String tool) {
    return new LadderSettings(
        name -> Optional.ofNullable(System.getenv(name)),
        LOCK_WAIT,
        Duration.ZERO,
        what -> {},
        0,
        tool,
        Clock.systemUTC());
  }

  public LadderSettings withLockWait(Duration wait) {
    return new LadderSettings(variables, wait, await, onWait, retries, tool, clock);
  }

  public LadderSettings withAwait(Duration wait, Consumer<String> listener) {
    return new LadderSettings(variables, lockWait, wait, listener, retries, tool, clock);
  }

  public LadderSettings withRetries(int count) {
    return new LadderSettings(variables, lockWait, await, onWait, count, tool, clock);
  }

  /** Now, as rungs are numbered by time. */
  String timestamp() {
    return DateTimeFormatter.ofPattern("yyyyMMddHHmmss")
        .format(LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC));
  }

  /** An environment's database, with the patience that these settings have. */
  Target target(Environment environment, Path root) {
    return new Target(environment, root, lockWait, await, onWait);
  }
}
