package org.wornladder.change;

/**
 * What a change holds up while it runs.
 *
 * @param reason one sentence without a full stop, with the engine's own name of the lock
 * @param instead how the same is had with less waiting; empty if that is not known
 */
public record Lock(String reason, String instead) {
  /** One that cannot be avoided. */
  public static Lock of(String reason) {
    return new Lock(reason, "");
  }
}
