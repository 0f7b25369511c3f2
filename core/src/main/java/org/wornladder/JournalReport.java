package org.wornladder;

import java.util.Optional;
import org.wornladder.journal.History;
import org.wornladder.journal.JournalHead;

/**
 * A journal as it is in one environment.
 *
 * @param running who changes the database just now; empty if nobody does
 * @param head the last entry of all projects that share the journal
 */
public record JournalReport(
    String environment,
    String address,
    boolean isThere,
    Optional<String> running,
    History history,
    JournalHead head) {}
