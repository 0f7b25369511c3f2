package org.wornladder.project;

import java.util.OptionalLong;

/**
 * Whether what rungs erase is kept aside in an environment.
 *
 * @param mostRows how many rows a run may keep; empty for any number
 * @param mostBytes how large the tables may be that a run takes from; empty for any size
 */
public record AtticSettings(Mode mode, OptionalLong mostRows, OptionalLong mostBytes) {
  /** Nothing is kept. */
  public static final AtticSettings OFF =
      new AtticSettings(Mode.OFF, OptionalLong.empty(), OptionalLong.empty());

  /** Who decides. */
  public enum Mode {
    OFF,
    /** Whoever runs the rung. */
    ASK,
    ON
  }
}
