package org.wornladder;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.project.Environment;

/** Decides whether rows may be written. Asked once, with what would be done. */
@FunctionalInterface
public interface SeedApproval {
  /** Nobody to ask and nothing confirmed: a guarded environment is refused. */
  SeedApproval UNATTENDED = given(Optional.empty());

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

  /** What is planned, in one sentence without its end; deletions by table, nothing of zero. */
  static String words(SeedRunResult planned) {
    long added = planned.results().stream().mapToLong(one -> one.counts().added()).sum();
    long updated = planned.results().stream().mapToLong(one -> one.counts().updated()).sum();
    long scripts = planned.results().stream().filter(one -> one.statements() > 0).count();
    List<String> parts = new ArrayList<>();
    if (added > 0) {
      parts.add(count(added, "new row"));
    }
    if (updated > 0) {
      parts.add(updated + " updated");
    }
    for (SeedResult result : planned.results()) {
      if (result.counts().deleted() > 0) {
        parts.add("and lose " + count(result.counts().deleted(), "row") + " of " + result.label());
      }
    }
    if (scripts > 0) {
      parts.add("and run " + count(scripts, "script"));
    }
    return String.join(", ", parts);
  }

  private static String count(long number, String word) {
    return number + " " + word + (number == 1 ? "" : "s");
  }
}
