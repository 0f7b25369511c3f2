package org.wornladder;

import java.util.Optional;

/** Decides whether an environment may be emptied. Asked once, with what would be lost. */
@FunctionalInterface
public interface RebuildApproval {
  /**
   * Returns if it may.
   *
   * @throws RefusedException if it may not
   */
  void check(RebuildLoss loss);

  /**
   * Without a person to ask: to lose something wants a yes; what may be somebody else's, the
   * database's own name.
   *
   * @param confirmed the name that was given; empty if none was
   */
  static RebuildApproval given(Optional<String> confirmed, boolean yes) {
    return loss -> {
      boolean named = confirmed.filter(loss.database()::equals).isPresent();
      String where = "environment " + loss.environment();
      if (confirmed.isPresent() && !named) {
        throw RefusedException.of(
            "the confirmation names "
                + confirmed.get()
                + ", but the database is "
                + loss.database(),
            where,
            "see that this is the database you mean");
      }
      if (loss.isStrange() && !named) {
        throw RefusedException.of(
            strange(loss), where, Advice.of(Advice.Code.CONFIRM_DATABASE, loss.database()));
      }
      if (!loss.isNothing() && !yes && !named) {
        throw RefusedException.of(
            "a rebuild takes " + loss.text() + " with all rows, and nobody is there to ask",
            where,
            Advice.of(Advice.Code.ADD_YES));
      }
    };
  }

  private static String strange(RebuildLoss loss) {
    String holds = loss.database() + " holds " + loss.text();
    return loss.others().isEmpty()
        ? holds + ", and no journal: is it the right database?"
        : holds
            + ", and a journal of "
            + String.join(", ", loss.others())
            + ": is it the right one?";
  }
}
