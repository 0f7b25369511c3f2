package org.wornladder;

import java.util.List;
import java.util.Optional;

/** Agrees to a change of the newest rung. */
public interface ExtensionApproval {
  /**
   * Returns if the rung may be extended.
   *
   * @param rung its file
   * @param takenBack the environment where it is taken back first and applied again; empty if it is
   *     not in place there
   * @param others other environments that have it: they must take it back and apply it again
   * @throws RefusedException to refuse
   */
  void check(String rung, Optional<String> takenBack, List<String> others);
}
