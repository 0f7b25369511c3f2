package org.wornladder.engine;

import java.util.Map;
import org.wornladder.schema.Sequence;

/** How a sequence counts, as CREATE and ALTER SEQUENCE write it (ISO/IEC 9075-2, 11.72). */
public final class SequenceClauses {
  private SequenceClauses() {}

  /** The clauses of some settings, each with a blank in front. */
  public static String of(Map<String, String> settings) {
    StringBuilder text = new StringBuilder();
    for (String setting : Sequence.SETTINGS) {
      String value = settings.getOrDefault(setting, "");
      if (!value.isEmpty()) {
        text.append(clause(setting, value));
      }
    }
    return text.toString();
  }

  private static String clause(String setting, String value) {
    return switch (setting) {
      case Sequence.TYPE -> " AS " + value;
      case Sequence.START -> " START WITH " + value;
      case Sequence.INCREMENT -> " INCREMENT BY " + value;
      case Sequence.MINIMUM -> " MINVALUE " + value;
      case Sequence.MAXIMUM -> " MAXVALUE " + value;
      case Sequence.CACHE -> " CACHE " + value;
      default -> " CYCLE";
    };
  }

  /** Whether a sequence that begins anew at its end is not to do so any more. */
  public static boolean stopsCycling(Sequence before, Sequence after) {
    return before.settings().containsKey(Sequence.CYCLE)
        && !after.settings().containsKey(Sequence.CYCLE);
  }
}
