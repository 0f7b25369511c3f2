package org.wornladder.execution;

import java.sql.SQLException;
import java.util.Optional;
import org.wornladder.change.StructureSummary;

/**
 * Reads the structure at the end of an all-or-nothing run, before its commit, while the server
 * still has the catalogue in its caches. On a guarded environment the structure is read after the
 * commit instead, so that nobody waits for the run's locks any longer than necessary.
 */
public final class PreCommitCheck implements Runnable {
  private final EnvironmentContext context;
  private final ExpectedState before;
  private Optional<ExpectedState.RunEffect> effect = Optional.empty();
  private long nanos;

  public PreCommitCheck(EnvironmentContext context, ExpectedState before) {
    this.context = context;
    this.before = before;
  }

  @Override
  public void run() {
    effect = Optional.empty();
    if (context.environment().settings().guarded()) {
      return;
    }
    long start = System.nanoTime();
    try {
      effect = Optional.of(before.effectOf(context.structureWithFingerprint()));
    } catch (SQLException | RuntimeException e) {
      // No reason to undo the run: the structure is read again after the commit, and fails there.
      effect = Optional.empty();
    }
    nanos = System.nanoTime() - start;
  }

  /** Called after the run: saves what is expected from now on, and returns what was changed. */
  public StructureSummary save() throws SQLException {
    return effect.isPresent() ? before.saveAfter(effect.get()) : before.saveAfter();
  }

  /** How long the reading took, in milliseconds. */
  public long millis() {
    return nanos / 1_000_000;
  }
}
