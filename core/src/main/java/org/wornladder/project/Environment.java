package org.wornladder.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * One environment, ready for use.
 *
 * @param url with its variables put in; may hold a secret, so it is not for showing
 * @param role what is taken on after connecting, so that what is made belongs to it
 * @param values what scripts may use here, the environment's own first
 * @param isStandIn whether it is a throw-away database in place of the environment's own
 */
public record Environment(
    EnvironmentSettings settings,
    String url,
    Optional<String> user,
    Optional<String> password,
    Optional<String> role,
    Map<String, Value> values,
    boolean isStandIn) {
  private static final int SHORTEST_IN_DEFINITION = 4;

  /** An environment itself. */
  public Environment(
      EnvironmentSettings settings,
      String url,
      Optional<String> user,
      Optional<String> password,
      Optional<String> role,
      Map<String, Value> values) {
    this(settings, url, user, password, role, values, false);
  }

  public String name() {
    return settings.name();
  }

  /** Every text that must not be shown: the password and the values that came out of variables. */
  public Secrets secrets() {
    List<String> secrets = new ArrayList<>();
    password.ifPresent(secrets::add);
    secrets.addAll(UrlSecrets.in(url));
    for (Value value : values.values()) {
      if (value.secret()) {
        secrets.add(value.text());
      }
    }
    return new Secrets(secrets);
  }

  /**
   * The values that came out of variables and may be part of objects' definitions. Very short ones
   * are none: they stand in every definition by chance.
   */
  public Secrets definitionSecrets() {
    return new Secrets(
        values.values().stream()
            .filter(Value::secret)
            .map(Value::text)
            .filter(text -> text.length() >= SHORTEST_IN_DEFINITION)
            .toList());
  }

  /** The same for a throw-away database: nothing is guarded there. */
  public Environment inPlaceOf(String otherUrl, Optional<String> otherUser, Optional<String> word) {
    return new Environment(settings.unguarded(), otherUrl, otherUser, word, role, values, true);
  }

  /** The same with other values. */
  public Environment withValues(Map<String, Value> others) {
    return new Environment(settings, url, user, password, role, others, isStandIn);
  }

  /** The same with another role. */
  public Environment withRole(Optional<String> other) {
    return new Environment(settings, url, user, password, other, values, isStandIn);
  }

  @Override
  public String toString() {
    return name();
  }
}
