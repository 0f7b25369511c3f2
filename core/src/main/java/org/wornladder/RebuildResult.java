package org.wornladder;

import java.util.Optional;

/**
 * What a fresh start did.
 *
 * @param loss what was taken out
 * @param applied what was built
 * @param seeded what was seeded; empty if nothing was to be
 */
public record RebuildResult(RebuildLoss loss, RunResult applied, Optional<SeedRunResult> seeded) {}
