package org.wornladder.scratch;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.Preview.Measured;
import org.wornladder.RehearsalReport.OfStatement;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.JsonLists;

/**
 * What the statements of rungs did when they were rehearsed: for each statement a list of its line
 * and of its effects.
 */
record MeasurementCache(CacheFolder folder) {
  /** What is known of a rung; none if it was not rehearsed. */
  List<Measured> read(String key, long rung) {
    return folder.read(key).map(text -> parsed(text, rung)).orElse(List.of());
  }

  private static List<Measured> parsed(String text, long rung) {
    List<Measured> measured = new ArrayList<>();
    try {
      for (Object one : JsonLists.read(text)) {
        if (one instanceof List<?> list && !list.isEmpty()) {
          int line = Integer.parseInt(list.get(0).toString());
          List<String> effects =
              list.subList(1, list.size()).stream().map(String::valueOf).toList();
          measured.add(new Measured(rung, line, effects));
        }
      }
      return measured;
    } catch (BadValueException | NumberFormatException e) {
      // The cached file is damaged: the rung counts as not rehearsed.
      return List.of();
    }
  }

  void write(String key, List<OfStatement> statements) {
    List<Object> all = new ArrayList<>();
    for (OfStatement statement : statements) {
      if (!statement.effects().isEmpty()) {
        List<Object> one = new ArrayList<>();
        one.add(statement.line());
        one.addAll(statement.effects());
        all.add(one.toArray());
      }
    }
    folder.write(key, JsonLists.write(all.toArray()));
  }
}
