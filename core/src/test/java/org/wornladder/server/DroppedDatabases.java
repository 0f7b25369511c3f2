package org.wornladder.server;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.extension.AfterEachCallback;
import org.junit.jupiter.api.extension.BeforeEachCallback;
import org.junit.jupiter.api.extension.ExtensionContext;

/**
 * Drops the databases that a test has made on a server when it ends: some thousand of them would
 * fill a small disk. A database that was made for a whole class stays.
 */
public final class DroppedDatabases implements BeforeEachCallback, AfterEachCallback {
  private static final ThreadLocal<List<Runnable>> DROPS = ThreadLocal.withInitial(ArrayList::new);

  /** Notes how to drop a database that the running test has made. */
  static void note(Runnable drop) {
    DROPS.get().add(drop);
  }

  @Override
  public void beforeEach(ExtensionContext context) {
    DROPS.get().clear();
  }

  @Override
  public void afterEach(ExtensionContext context) {
    for (Runnable drop : DROPS.get()) {
      try {
        drop.run();
      } catch (IllegalStateException inUse) {
        // It stays until its server ends.
        continue;
      }
    }
    DROPS.get().clear();
  }
}
