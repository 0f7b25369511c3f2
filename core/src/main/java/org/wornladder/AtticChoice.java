package org.wornladder;

import java.util.List;
import java.util.Optional;

/** Decides whether what rungs erase is kept aside, where an environment leaves that open. */
public interface AtticChoice {
  /** Decides nothing: a run that erases is refused where it must be decided. */
  AtticChoice OPEN = (environment, erased) -> Optional.empty();

  /**
   * Whether it is kept; empty if that stays open.
   *
   * @param erased what would go, in words
   */
  Optional<Boolean> keeps(String environment, List<String> erased);

  /** The same answer whatever goes. */
  static AtticChoice always(boolean keeps) {
    return (environment, erased) -> Optional.of(keeps);
  }
}
