package org.wornladder.execution;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.wornladder.journal.Entry;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.journal.RungRecord;
import org.wornladder.project.FoldedRange;
import org.wornladder.project.Project;
import org.wornladder.project.Rung;

/**
 * A database's history as the files see it that fold rungs: where all that a fold stands for ran,
 * the fold counts as in place, and what it stands for as nothing of its own.
 *
 * @param history with the records of folded rungs replaced
 * @param standing the folds that stand for rungs which ran one by one
 */
public record FoldedHistory(History history, List<Rung> standing) {
  /** Adds what the files' folds say to a history. */
  public static FoldedHistory of(Project project, History history) {
    Map<Long, RungRecord> rungs = new TreeMap<>(history.rungs());
    List<Rung> standing = new ArrayList<>();
    for (Rung rung : project.rungs()) {
      Optional<FoldedRange> range = rung.script().header().folds();
      Optional<RungRecord> last = history.rung(rung.number()).filter(RungRecord::isInPlace);
      if (range.isEmpty() || last.isEmpty()) {
        continue;
      }
      boolean itself = last.get().up().isSame(rung.script());
      boolean ranOneByOne = range.get().chains().contains(chain(history, range.get()));
      if (itself || ranOneByOne) {
        rungs.keySet().removeIf(number -> range.get().covers(number) && number != rung.number());
        rungs.put(rung.number(), asFold(last.get(), rung));
      }
      if (!itself && ranOneByOne) {
        standing.add(rung);
      }
    }
    return new FoldedHistory(
        new History(history.entries(), rungs, history.standing(), history.broken()), standing);
  }

  private static RungRecord asFold(RungRecord record, Rung fold) {
    RungRecord.Way way =
        new RungRecord.Way(
            fold.script().fileHash(), record.up().fingerprint(), record.up().dialect());
    return new RungRecord(
        record.number(), record.state(), record.last(), record.run(), way, record.progress());
  }

  private static String chain(History history, FoldedRange range) {
    String chain = "";
    for (RungRecord record : history.rungs().values()) {
      if (range.covers(record.number()) && record.isInPlace()) {
        chain = FoldedRange.chain(chain, record.number(), record.up().text());
      }
    }
    return chain;
  }

  /** Whether the journal says already that a fold stands for what ran. */
  public boolean isRecorded(Rung fold) {
    for (Entry entry : history.entries()) {
      if (entry.event() == Event.FOLDED && entry.subject().rung() == fold.number()) {
        return true;
      }
    }
    return false;
  }
}
