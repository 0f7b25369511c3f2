package org.wornladder.project;

/** Which of a script's two ways. */
public enum Direction {
  UP,
  DOWN;

  /** {@code up} or {@code down}. */
  public String label() {
    return this == UP ? "up" : "down";
  }
}
