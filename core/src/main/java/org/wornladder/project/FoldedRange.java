package org.wornladder.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.sql.Fingerprint;

/**
 * The rungs that one rung stands for, as its header names them: {@code 0001 to 0040, HASH}.
 *
 * @param from the lowest number
 * @param to the highest number, which is the fold's own
 * @param chains hashes over the numbers and the files' hashes of the rungs, in their order; several
 *     where some of them were a fold themselves, which a database may have in either form
 */
public record FoldedRange(long from, long to, List<String> chains) {
  private static final Pattern FORM =
      Pattern.compile("(\\d{1,18}) to (\\d{1,18})((?:, [0-9a-f]{64})+)");

  public FoldedRange {
    chains = List.copyOf(chains);
  }

  static Optional<FoldedRange> parse(String text) {
    Matcher parts = FORM.matcher(text);
    if (!parts.matches()) {
      return Optional.empty();
    }
    return Optional.of(
        new FoldedRange(
            Long.parseLong(parts.group(1)),
            Long.parseLong(parts.group(2)),
            List.of(parts.group(3).substring(2).split(", "))));
  }

  /** What one more rung makes of a chain; the first one begins with an empty text. */
  public static String chain(String before, long number, String fileHash) {
    return Fingerprint.ofParts(List.of(before, Long.toString(number), fileHash));
  }

  /** The range of some rungs, the lowest first; one of them may be a fold. */
  public static FoldedRange of(List<Rung> rungs) {
    List<String> chains = List.of("");
    for (Rung rung : rungs) {
      List<String> longer = new ArrayList<>();
      // A fold is the lowest of its ladder: a database that has what it stands for has its chains.
      rung.script().header().folds().ifPresent(inner -> longer.addAll(inner.chains()));
      for (String chain : chains) {
        longer.add(chain(chain, rung.number(), rung.script().fileHash()));
      }
      chains = longer;
    }
    Rung first = rungs.get(0);
    long from = first.script().header().folds().map(FoldedRange::from).orElse(first.number());
    return new FoldedRange(from, rungs.get(rungs.size() - 1).number(), chains);
  }

  /** Whether a number is one of those that are folded. */
  public boolean covers(long number) {
    return number >= from && number <= to;
  }

  /** The range as a person reads it. */
  public String words() {
    return RungNames.label(from) + " to " + RungNames.label(to);
  }

  /** The directive's value. */
  public String text() {
    return words() + ", " + String.join(", ", chains);
  }
}
