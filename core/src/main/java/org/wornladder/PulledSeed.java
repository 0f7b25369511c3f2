package org.wornladder;

/** Rows that were written back to a file. */
public record PulledSeed(String file, long rows) {}
