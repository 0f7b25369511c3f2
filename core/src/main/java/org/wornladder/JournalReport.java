package org.wornladder;

import org.wornladder.journal.History;
import org.wornladder.journal.JournalHead;

/**
 * A journal as it is in one environment.
 *
 * @param head the last entry of all projects that share the journal
 */
public record JournalReport(
    String environment, String address, boolean isThere, History history, JournalHead head) {}
