package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.change.LeftOut;

/** What the database's user may not see, or what cannot be written as SQL. */
final class NotReadable {
  private static final String WHY =
      "this user may not see it, so whether it differs cannot be said";

  private NotReadable() {}

  static List<String> lines(List<String> objects, Colors colors) {
    List<String> lines = new ArrayList<>();
    for (String object : objects) {
      lines.add(colors.warning("  not readable  ") + SafeText.line(object));
    }
    if (!objects.isEmpty()) {
      lines.add(colors.faint("      " + WHY));
    }
    return lines;
  }

  /** Kinds of objects, such as {@code events}, of which there may be more. */
  static List<String> kinds(List<String> kinds, Colors colors) {
    return kinds.isEmpty()
        ? List.of()
        : List.of(
            colors.warning("  not readable  ")
                + String.join(", ", kinds)
                + ": this user may not see whether there are more");
  }

  /** An object that is not part of what was written. */
  static String leftOut(LeftOut left, Colors colors) {
    return colors.warning("  left out  ")
        + SafeText.line(left.difference().description())
        + ": "
        + left.reason();
  }

  static List<String> markdown(List<String> objects) {
    List<String> lines = new ArrayList<>();
    for (String object : objects) {
      lines.add("- not readable: " + DifferenceView.cell(object));
    }
    if (!objects.isEmpty()) {
      lines.addAll(List.of("", "Not readable: " + WHY + ".", ""));
    }
    return lines;
  }

  /** Differences that are not settled, and why, for programs. */
  static List<Json> reasons(List<LeftOut> all) {
    return all.stream()
        .map(
            left ->
                new Json()
                    .put("difference", left.difference().description())
                    .put("reason", left.reason()))
        .toList();
  }
}
