package org.wornladder;

import java.util.OptionalLong;

/**
 * Options of a fresh start.
 *
 * @param to the highest number to apply; empty for all. Seeds are for the whole ladder, and wait
 *     for it
 * @param seed whether seeds are written in the end
 */
public record RebuildOptions(OptionalLong to, boolean seed) {}
