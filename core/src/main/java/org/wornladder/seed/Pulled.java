package org.wornladder.seed;

/** Rows that were written back to a file. */
public record Pulled(String file, long rows) {}
