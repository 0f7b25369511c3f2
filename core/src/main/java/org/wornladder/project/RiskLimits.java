package org.wornladder.project;

import java.util.Map;
import java.util.OptionalLong;

/**
 * The risks that an environment refuses, beyond what it does of itself.
 *
 * @param mostRows by the risk's word: how many rows it may concern; 0 refuses it whatever there is
 */
public record RiskLimits(Map<String, Long> mostRows) {
  public static final RiskLimits NONE = new RiskLimits(Map.of());

  public RiskLimits {
    mostRows = Map.copyOf(mostRows);
  }

  public boolean isEmpty() {
    return mostRows.isEmpty();
  }

  /** How many rows a risk may concern; empty if it is not refused. */
  public OptionalLong most(String risk) {
    Long most = mostRows.get(risk);
    return most == null ? OptionalLong.empty() : OptionalLong.of(most);
  }
}
