package org.wornladder;

import org.wornladder.execution.AcceptedFile;

/**
 * Decides whether an edited file of a stuck rung may count as the one that ran. Asked once, and
 * only where the file has what ran in another place, or not at all.
 */
@FunctionalInterface
public interface AcceptedFileApproval {
  /**
   * Returns if it may.
   *
   * @throws RefusedException if it may not
   */
  void check(AcceptedFile file);

  /**
   * Without a person to ask.
   *
   * @param yes whether the answer is yes
   */
  static AcceptedFileApproval given(boolean yes) {
    return file -> {
      if (!yes) {
        throw RefusedException.of(
            file.label()
                + ": the file differs from the statements that ran, and there is no terminal to ask at",
            "",
            Advice.of(Advice.Code.ADD_YES));
      }
    };
  }
}
