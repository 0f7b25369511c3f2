package org.wornladder.project;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * One environment as it stands in {@code ladder.yaml}, before variables are read.
 *
 * @param lateAllowed whether a rung may run although a higher number already ran there
 * @param foreignKeys whether foreign keys are enforced where the engine leaves it to the connection
 */
public record EnvironmentSettings(
    String name,
    Template url,
    Optional<Template> user,
    Optional<Template> password,
    Optional<Template> role,
    List<String> schemas,
    boolean guarded,
    boolean disposable,
    Optional<String> promotedFrom,
    boolean lateAllowed,
    boolean foreignKeys,
    Optional<Duration> lockTimeout,
    Optional<Duration> statementTimeout,
    Map<String, Template> values) {
  private static final Duration GUARDED_PATIENCE = Duration.ofSeconds(5);

  /**
   * How long a statement may wait for a lock of the database: as the settings say, a few seconds
   * where it is guarded; empty for as long as the database allows.
   */
  public Optional<Duration> patience() {
    return lockTimeout.or(() -> guarded ? Optional.of(GUARDED_PATIENCE) : Optional.empty());
  }
}
