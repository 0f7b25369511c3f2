package org.wornladder;

import java.util.Optional;
import org.wornladder.journal.History;
import org.wornladder.journal.JournalHead;

/**
 * A journal as it is in one environment.
 *
 * @param running the holder of the database lock, for people; empty if it is not held
 * @param head the last entry of all projects that share the journal
 */
public record JournalReport(
    String environment,
    String address,
    boolean isThere,
    Optional<String> running,
    History history,
    JournalHead head) {}
