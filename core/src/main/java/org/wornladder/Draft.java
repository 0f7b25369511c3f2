package org.wornladder;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.change.Difference;
import org.wornladder.change.LeftOut;
import org.wornladder.change.RenameCandidate;
import org.wornladder.change.Risk;

/**
 * A rung that was written from a difference.
 *
 * @param environment the one whose engine and values it was made with
 * @param file relative to the project; empty if none was written
 * @param text the whole rung; empty if nothing differs
 * @param written the differences that it settles
 * @param leftOut those that it does not settle, or not wholly
 * @param oneWay those of which its way down does not bring back what was
 * @param risks what it may do to rows, to others at work, and to programs
 * @param unanswered what may have been renamed, and was drafted as dropped and added
 * @param standing differences of objects that standing scripts make
 * @param hidden objects that could not be compared
 * @param unmapped what a model does not map, and that stays
 * @param notProved why it is not known that both ways run and do what they should; empty if they do
 */
public record Draft(
    String environment,
    Optional<String> file,
    String text,
    List<Difference> written,
    List<LeftOut> leftOut,
    List<LeftOut> oneWay,
    List<Risk> risks,
    List<RenameCandidate> unanswered,
    List<DriftRung.OfStanding> standing,
    List<Difference> hidden,
    List<Difference> unmapped,
    Optional<String> notProved) {
  public Draft {
    written = List.copyOf(written);
    leftOut = List.copyOf(leftOut);
    oneWay = List.copyOf(oneWay);
    risks = List.copyOf(risks);
    unanswered = List.copyOf(unanswered);
    standing = List.copyOf(standing);
    hidden = List.copyOf(hidden);
    unmapped = List.copyOf(unmapped);
  }

  /** Whether there was nothing to draft. */
  public boolean isEmpty() {
    return text.isEmpty();
  }

  /** The same with what only a model leaves open. */
  public Draft with(List<RenameCandidate> moreUnanswered, List<Difference> stays) {
    List<RenameCandidate> all = new ArrayList<>(unanswered);
    all.addAll(moreUnanswered);
    return new Draft(
        environment,
        file,
        text,
        written,
        leftOut,
        oneWay,
        risks,
        all,
        standing,
        hidden,
        stays,
        notProved);
  }
}
