package org.wornladder.project;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.sql.Place;

/**
 * One environment as it is in {@code ladder.yaml}, before variables are read.
 *
 * @param lateAllowed whether a rung may run although a higher number already ran there
 * @param foreignKeys whether foreign keys are enforced where the engine leaves it to the connection
 * @param clientFiles whether statements may read and write files of the machine where the tool
 *     runs, and run code in its process
 * @param driver the class of the JDBC driver, where its jar does not name it
 * @param tableOptions what stands behind the definitions of the tool's own tables, where its driver
 *     alone serves the engine
 * @param rowsCopied whether a rehearsal may copy rows although it is guarded
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
    boolean clientFiles,
    boolean rowsCopied,
    Optional<String> driver,
    Optional<String> tableOptions,
    Optional<Duration> lockTimeout,
    Optional<Duration> statementTimeout,
    RiskLimits risks,
    AtticSettings attic,
    Map<String, Template> values) {
  private static final Duration GUARDED_PATIENCE = Duration.ofSeconds(5);

  /** Where a password is written out in the settings; empty if none is. */
  public Optional<Place> plainPassword() {
    Optional<Place> alone =
        password.filter(text -> !text.hasVariable() && !text.text().isEmpty()).map(Template::place);
    boolean inUrl =
        UrlSecrets.in(url.text()).stream()
            .anyMatch(secret -> !secret.isEmpty() && !secret.contains("${"));
    return alone.isPresent() || !inUrl ? alone : Optional.of(url.place());
  }

  /** The same for a throw-away database. */
  EnvironmentSettings unguarded() {
    return new EnvironmentSettings(
        name,
        url,
        user,
        password,
        role,
        schemas,
        false,
        true,
        Optional.empty(),
        true,
        foreignKeys,
        clientFiles,
        rowsCopied,
        driver,
        tableOptions,
        lockTimeout,
        statementTimeout,
        RiskLimits.NONE,
        AtticSettings.OFF,
        values);
  }

  /**
   * How long a statement may wait for a lock of the database: as the settings say, a few seconds
   * where it is guarded; empty for as long as the database allows.
   */
  public Optional<Duration> patience() {
    return lockTimeout.or(() -> guarded ? Optional.of(GUARDED_PATIENCE) : Optional.empty());
  }
}
