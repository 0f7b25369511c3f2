package org.wornladder.project;

import java.util.List;
import java.util.Map;
import org.wornladder.sql.Place;

/** A piece of YAML with the place where it is. */
sealed interface YamlNode {
  Place place();

  /**
   * A word, number or truth value, as it is written; {@code text} is empty for a null.
   *
   * @param plain whether it stands without quotes
   */
  record Scalar(Place place, String text, boolean isNull, boolean plain) implements YamlNode {}

  /** A list of items. */
  record Items(Place place, List<YamlNode> items) implements YamlNode {}

  /** A map in the order of the file. */
  record Entries(Place place, Map<String, Entry> entries) implements YamlNode {}

  /** A key's place and its value. */
  record Entry(Place key, YamlNode value) {}
}
