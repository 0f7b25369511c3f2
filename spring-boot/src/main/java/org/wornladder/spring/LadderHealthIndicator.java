package org.wornladder.spring;

import org.springframework.boot.actuate.health.AbstractHealthIndicator;
import org.springframework.boot.actuate.health.Health;
import org.wornladder.Ladder;
import org.wornladder.Status;

/** Up while no rung waits. */
class LadderHealthIndicator extends AbstractHealthIndicator {
  private final Ladder ladder;
  private final LadderProperties properties;

  LadderHealthIndicator(Ladder ladder, LadderProperties properties) {
    super("the state of the database's rungs could not be read");
    this.ladder = ladder;
    this.properties = properties;
  }

  @Override
  protected void doHealthCheck(Health.Builder health) {
    Status status = ladder.status(properties.named());
    (status.waiting() == 0 ? health.up() : health.down())
        .withDetail("environment", status.environment())
        .withDetail("rung", status.at())
        .withDetail("waiting", status.waiting());
  }
}
