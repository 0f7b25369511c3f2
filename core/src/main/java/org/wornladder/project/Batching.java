package org.wornladder.project;

import java.time.Duration;
import java.util.Optional;

/**
 * How a rung's one statement is run piece by piece.
 *
 * @param rows how many rows a piece has
 * @param key the column that orders the rows; with its table's alias in front if it needs one
 * @param pause between two pieces
 * @param lag the replication lag up to which the next piece may start; empty for no limit
 */
public record Batching(int rows, String key, Duration pause, Optional<Duration> lag) {}
