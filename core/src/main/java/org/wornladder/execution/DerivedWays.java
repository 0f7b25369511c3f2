package org.wornladder.execution;

import java.util.Optional;
import org.wornladder.journal.RungRecord;
import org.wornladder.project.Script;

/** Computes missing ways down from the structures before and after a rung. */
public interface DerivedWays {
  DerivedWays NONE = record -> Optional.empty();

  /**
   * The way down of a rung that has none; empty if none is wanted.
   *
   * @throws org.wornladder.LadderException if there is none that is proved
   */
  Optional<Script> of(RungRecord record);
}
