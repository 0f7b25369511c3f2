package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;

/** What nobody can tell of, since who asked may not see it. */
final class NotReadable {
  private static final String WHY = "this user may not see that, so nobody can tell";

  private NotReadable() {}

  static List<String> lines(List<String> things, Paint paint) {
    List<String> lines = new ArrayList<>();
    for (String thing : things) {
      lines.add(paint.warning("  not readable  ") + Clean.line(thing));
    }
    if (!things.isEmpty()) {
      lines.add(paint.faint("      " + WHY + "; look again as one who may"));
    }
    return lines;
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
