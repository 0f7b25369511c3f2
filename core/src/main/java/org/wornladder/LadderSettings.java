package org.wornladder;

import java.time.Clock;
import java.time.Duration;
import java.util.Optional;
import java.util.function.Function;

/**
 * What a ladder takes from the program around it.
 *
 * @param variables the process's environment variables, by name
 * @param lockWait how long to wait for a lock that somebody else holds; zero for not at all
 * @param tool the version that stands in the journal
 */
public record LadderSettings(
    Function<String, Optional<String>> variables, Duration lockWait, String tool, Clock clock) {
  private static final Duration LOCK_WAIT = Duration.ofSeconds(60);

  /** The process's own environment, a minute of patience, the system's clock. */
  public static LadderSettings standard(String tool) {
    return new LadderSettings(
        name -> Optional.ofNullable(System.getenv(name)), LOCK_WAIT, tool, Clock.systemUTC());
  }

  public LadderSettings withLockWait(Duration wait) {
    return new LadderSettings(variables, wait, tool, clock);
  }
}
