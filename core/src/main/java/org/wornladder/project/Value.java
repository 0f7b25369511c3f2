package org.wornladder.project;

/**
 * A value that scripts may use.
 *
 * @param secret whether it came out of a variable, so that it is never shown or written down
 */
public record Value(String text, boolean secret) {
  @Override
  public String toString() {
    return secret ? "***" : text;
  }
}
