package org.wornladder.spring;

import org.springframework.boot.actuate.autoconfigure.health.ConditionalOnEnabledHealthIndicator;
import org.springframework.boot.actuate.health.HealthIndicator;
import org.springframework.boot.autoconfigure.AutoConfiguration;
import org.springframework.boot.autoconfigure.condition.ConditionalOnBean;
import org.springframework.boot.autoconfigure.condition.ConditionalOnClass;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.context.annotation.Bean;
import org.wornladder.Ladder;

/** Says by the application's health at which rung the database is. */
@AutoConfiguration(after = LadderAutoConfiguration.class)
@ConditionalOnClass(HealthIndicator.class)
@ConditionalOnBean(Ladder.class)
@ConditionalOnEnabledHealthIndicator("ladder")
public class LadderHealthAutoConfiguration {
  @Bean
  @ConditionalOnMissingBean(name = "ladderHealthIndicator")
  public HealthIndicator ladderHealthIndicator(Ladder ladder, LadderProperties properties) {
    return new LadderHealthIndicator(ladder, properties);
  }
}
