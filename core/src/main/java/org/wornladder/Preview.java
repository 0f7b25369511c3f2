package org.wornladder;

import java.util.Optional;
import org.wornladder.execution.Plan;

/**
 * What apply would do.
 *
 * @param refusal why apply would refuse the plan even if it is confirmed: a guarded database is not
 *     what its history says; empty if it would not
 */
public record Preview(Plan plan, Optional<RefusedException> refusal) {}
