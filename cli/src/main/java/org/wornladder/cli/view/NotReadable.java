package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.schema.Element;

/** What is not told, most of it since who asked may not see it. */
final class NotReadable {
  private static final String WHY = "this user may not see that, so nobody can tell";

  private NotReadable() {}

  static List<String> lines(List<String> things, Colors paint) {
    List<String> lines = new ArrayList<>();
    for (String thing : things) {
      lines.add(paint.warning("  not readable  ") + SafeText.line(thing));
    }
    if (!things.isEmpty()) {
      lines.add(paint.faint("      " + WHY + "; look again as one who may"));
      lines.add("");
    }
    return lines;
  }

  /** Sorts of things, such as {@code events}, of which there may be more. */
  static List<String> sorts(List<String> sorts, Colors paint) {
    return sorts.isEmpty()
        ? List.of()
        : List.of(
            paint.warning("not readable: ")
                + String.join(", ", sorts)
                + ": this user may not see whether there are more");
  }

  /** A thing that is no part of what was written. */
  static String leftOut(Element thing, Colors paint) {
    return paint.warning("left out: ")
        + thing.kind().word()
        + " "
        + SafeText.line(thing.name())
        + (thing.isHidden()
            ? ", which this user may not see"
            : ", which cannot be written as SQL here");
  }

  static List<String> markdown(List<String> things) {
    List<String> lines = new ArrayList<>();
    for (String thing : things) {
      lines.add("- not readable: " + DifferenceView.cell(thing));
    }
    if (!things.isEmpty()) {
      lines.addAll(List.of("", "Not readable: " + WHY + ".", ""));
    }
    return lines;
  }
}
