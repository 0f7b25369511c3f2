package org.wornladder.journal;

import java.util.List;
import org.wornladder.sql.Fingerprint;

/**
 * One entry.
 *
 * @param at UTC, ISO 8601 with milliseconds
 * @param subject its script and way down are empty where the entry was read at a glance
 * @param hash as it stands in the journal; empty for an entry that is not written yet
 */
public record Entry(
    long number,
    String at,
    String project,
    Event event,
    EntrySubject subject,
    EntryDetails note,
    Who who,
    String tool,
    String previousHash,
    String hash) {
  /** Who wrote it; parts that are not known are empty. */
  public record Who(String databaseUser, String osUser, String host, String session) {
    static final Who NOT_READ = new Who("", "", "", "");
  }

  /**
   * The hash that the entry should have: over every column but the elapsed time, which some engines
   * only know when the entry is written.
   */
  String expectedHash() {
    return Fingerprint.ofParts(
        List.of(
            Long.toString(number),
            at,
            project,
            event.label(),
            Long.toString(subject.rung()),
            subject.name(),
            subject.upText(),
            subject.upFingerprint(),
            subject.downFingerprint(),
            subject.script(),
            Integer.toString(note.statement()),
            note.text(),
            who.databaseUser(),
            who.osUser(),
            who.host(),
            who.session(),
            tool,
            previousHash));
  }

  /** The same entry with the hash that it should have. */
  Entry sealed() {
    return new Entry(
        number, at, project, event, subject, note, who, tool, previousHash, expectedHash());
  }
}
