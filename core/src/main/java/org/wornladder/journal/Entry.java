package org.wornladder.journal;

import java.util.List;
import org.wornladder.sql.Fingerprint;

/**
 * One entry.
 *
 * @param at UTC, ISO 8601 with milliseconds
 * @param subject its script and way down are empty where the entry was read at a glance
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
   * The hash over what is known before a run. It shows accidents and casual edits; against somebody
   * who may write the table only the database's grants help.
   */
  static String hash(
      long number, String project, String event, EntrySubject subject, String previousHash) {
    return Fingerprint.ofParts(
        List.of(
            Long.toString(number),
            project,
            event,
            Long.toString(subject.rung()),
            subject.name(),
            subject.upText(),
            subject.upFingerprint(),
            subject.downFingerprint(),
            subject.script(),
            previousHash));
  }
}
