package org.wornladder;

import java.util.Optional;
import org.wornladder.project.Environment;

/** Decides whether rows may be written. Asked once, with what would be done. */
@FunctionalInterface
public interface SeedApproval {
  /**
   * Returns if they may.
   *
   * @throws RefusedException if they may not
   */
  void check(SeedRunResult planned, Environment environment);

  /**
   * Without a person to ask: a guarded environment wants its own name.
   *
   * @param confirmed the name that was given; empty if none was
   */
  static SeedApproval given(Optional<String> confirmed) {
    return (planned, environment) -> {
      String name = environment.name();
      if (confirmed.isPresent() && !confirmed.get().equals(name)) {
        throw RefusedException.of(
            "the confirmation names " + confirmed.get() + ", but this is " + name,
            "environment " + name,
            "see that this is the environment you mean");
      }
      if (environment.settings().guarded() && confirmed.isEmpty()) {
        throw RefusedException.of(
            name + " is guarded: it would take " + words(planned),
            "environment " + name,
            Advice.of(Advice.Code.CONFIRM_SEED, name));
      }
    };
  }

  /** What is planned, in one sentence without its end; deletions by table. */
  static String words(SeedRunResult planned) {
    long added = 0;
    long updated = 0;
    StringBuilder deleted = new StringBuilder();
    for (SeedResult result : planned.results()) {
      added += result.counts().added();
      updated += result.counts().updated();
      if (result.counts().deleted() > 0) {
        deleted.append(", and lose ").append(result.counts().deleted());
        deleted.append(result.counts().deleted() == 1 ? " row of " : " rows of ");
        deleted.append(result.label());
      }
    }
    long scripts = planned.results().stream().filter(one -> one.statements() > 0).count();
    String run =
        scripts == 0 ? "" : ", and run " + scripts + (scripts == 1 ? " script" : " scripts");
    return added
        + (added == 1 ? " new row, " : " new rows, ")
        + updated
        + " updated"
        + deleted
        + run;
  }
}
