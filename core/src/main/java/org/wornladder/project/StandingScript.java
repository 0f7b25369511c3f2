package org.wornladder.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * A script in {@code standing/} that is run again whenever its text changes.
 *
 * @param name the file's name without its ending
 */
public record StandingScript(String name, Script script) {
  public String about() {
    return script.header().about().orElse(name);
  }

  /**
   * The scripts in the order in which they run: by file name, each after those it needs. A needed
   * name that is not there, or a circle, is passed over here and reported by the project's reader.
   */
  public static List<StandingScript> inOrder(List<StandingScript> scripts) {
    Map<String, StandingScript> byName = new TreeMap<>();
    for (StandingScript script : scripts) {
      byName.put(script.name(), script);
    }
    List<StandingScript> ordered = new ArrayList<>();
    List<String> open = new ArrayList<>();
    for (StandingScript script : byName.values()) {
      place(script, byName, open, ordered);
    }
    return List.copyOf(ordered);
  }

  private static void place(
      StandingScript script,
      Map<String, StandingScript> byName,
      List<String> open,
      List<StandingScript> ordered) {
    if (open.contains(script.name())) {
      return;
    }
    open.add(script.name());
    for (String need : script.script().header().needs()) {
      if (byName.containsKey(need)) {
        place(byName.get(need), byName, open, ordered);
      }
    }
    ordered.add(script);
  }
}
