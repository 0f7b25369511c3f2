package org.wornladder.change;

/**
 * A difference that statements do not settle, or not wholly.
 *
 * @param reason why, as half a sentence
 */
public record LeftOut(Difference difference, String reason) {}
