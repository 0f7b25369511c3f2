package org.wornladder;

import org.wornladder.journal.History;

/** A journal as it is in one environment. */
public record JournalReport(String environment, String address, boolean isThere, History history) {}
