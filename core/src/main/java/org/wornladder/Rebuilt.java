package org.wornladder;

import java.util.Optional;
import org.wornladder.climb.Outcome;
import org.wornladder.seed.SeedOutcome;

/**
 * What a fresh start did.
 *
 * @param loss what was taken out
 * @param applied what was built
 * @param seeded what was seeded; empty if nothing was to be
 */
public record Rebuilt(RebuildLoss loss, Outcome applied, Optional<SeedOutcome> seeded) {}
