package org.wornladder.project;

import java.util.List;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Place;

/**
 * The SQL of one way, or its commands.
 *
 * @param engines the engines that it serves alone, as written; empty for a plain section
 * @param place where the text begins
 */
public record Section(Direction direction, List<String> engines, String text, Place place) {
  /** Whether its text is commands of a document database as JSON. */
  boolean isJson() {
    return engines.contains(Dialects.DOCUMENT.name());
  }
}
