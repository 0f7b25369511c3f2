package org.wornladder.project;

import java.util.List;
import java.util.Map;
import org.wornladder.sql.Place;

/** A piece of YAML with the place where it stands. */
sealed interface Node {
  Place place();

  /**
   * A word, number or truth value, as it is written; {@code text} is empty for a null.
   *
   * @param plain whether it stands without quotes
   */
  record Scalar(Place place, String text, boolean isNull, boolean plain) implements Node {}

  /** A list of items. */
  record Items(Place place, List<Node> items) implements Node {}

  /** A map in the order of the file. */
  record Entries(Place place, Map<String, Entry> entries) implements Node {}

  /** A key's place and its value. */
  record Entry(Place key, Node value) {}
}
