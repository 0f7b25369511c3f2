package org.wornladder.spring;

import java.nio.file.Path;
import java.util.Optional;
import javax.sql.DataSource;
import org.springframework.boot.autoconfigure.AutoConfiguration;
import org.springframework.boot.autoconfigure.condition.ConditionalOnBean;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.boot.autoconfigure.jdbc.DataSourceAutoConfiguration;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.context.annotation.Bean;
import org.wornladder.Ladder;

/** Brings a ladder on the application's own data source, and applies it at the start. */
@AutoConfiguration(after = DataSourceAutoConfiguration.class)
@ConditionalOnBean(DataSource.class)
@ConditionalOnProperty(name = "worn-ladder.enabled", matchIfMissing = true)
@EnableConfigurationProperties(LadderProperties.class)
public class LadderAutoConfiguration {
  /** The ladder; an application may have its own. */
  @Bean
  @ConditionalOnMissingBean
  public Ladder ladder(DataSource dataSource, LadderProperties properties) {
    Ladder.Builder builder = Ladder.builder().lockWait(properties.getLockWait());
    Optional<String> packed = properties.onClassPath();
    if (packed.isPresent()) {
      builder.projectOnClassPath(packed.get(), getClass().getClassLoader());
    } else {
      builder.project(Path.of(properties.getProject()));
    }
    Optional<String> named = properties.named();
    if (named.isPresent()) {
      builder.environment(named.get(), dataSource);
    } else {
      builder.environment(dataSource);
    }
    return builder.build();
  }

  /**
   * Applies it before the persistence layer opens, as {@link LadderInitializerDetector} sees to.
   */
  @Bean
  @ConditionalOnMissingBean
  public LadderInitializer ladderInitializer(Ladder ladder, LadderProperties properties) {
    return new LadderInitializer(ladder, properties);
  }
}
