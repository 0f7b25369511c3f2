package org.wornladder.spring;

import java.util.Set;
import org.springframework.boot.sql.init.dependency.AbstractBeansOfTypeDatabaseInitializerDetector;

/** Has everything that uses the database wait for {@link LadderInitializer}. */
class LadderInitializerDetector extends AbstractBeansOfTypeDatabaseInitializerDetector {
  @Override
  protected Set<Class<?>> getDatabaseInitializerBeanTypes() {
    return Set.of(LadderInitializer.class);
  }
}
