package org.wornladder.project;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;
import java.util.regex.Pattern;
import org.wornladder.Advice;
import org.wornladder.RefusedException;

/** A rung's file whose sections get more statements; every other line stays as it is. */
public final class RungText {
  private static final Pattern SECTION = Pattern.compile("--\\|\\s*(?:up|down)\\b.*");
  private static final Pattern UP = Pattern.compile("--\\|\\s*up\\s*");
  private static final Pattern DOWN = Pattern.compile("--\\|\\s*down\\s*");

  private RungText() {}

  /**
   * A rung that goes on with more statements, and takes these back first.
   *
   * @throws RefusedException if the rung has sections of single engines
   */
  public static String extended(Rung rung, RungDraft more) {
    List<String> lines = lines(rung);
    refuseEngineSections(rung, lines);
    OptionalInt down = find(lines, DOWN);
    List<String> text = new ArrayList<>(lines);
    if (down.isPresent()) {
      text.addAll(down.getAsInt() + 1, statements(more.down()));
    }
    text.addAll(endOfUp(lines), statements(more.up()));
    return String.join("\n", text) + "\n";
  }

  /** A rung with a way down. */
  public static String withWayDown(Rung rung, RungDraft way) {
    List<String> text = lines(rung);
    text.add("--| down");
    way.remarks().forEach(remark -> text.add("-- " + remark));
    text.addAll(statements(way.down()));
    return String.join("\n", text) + "\n";
  }

  private static List<String> lines(Rung rung) {
    return new ArrayList<>(
        List.of(rung.script().source().stripTrailing().replace("\r\n", "\n").split("\n", -1)));
  }

  private static List<String> statements(List<String> statements) {
    List<String> lines = new ArrayList<>();
    statements.forEach(one -> lines.addAll(List.of(one.stripTrailing().split("\n", -1))));
    return lines;
  }

  private static void refuseEngineSections(Rung rung, List<String> lines) {
    boolean own =
        lines.stream()
            .filter(line -> SECTION.matcher(line).matches())
            .anyMatch(line -> !UP.matcher(line).matches() && !DOWN.matcher(line).matches());
    if (own) {
      throw RefusedException.of(
          rung.label() + " has sections of single engines: it is not known which ones to extend",
          rung.file(),
          Advice.of(Advice.Code.DRAFT_RUNG_OF_ITS_OWN));
    }
  }

  private static OptionalInt find(List<String> lines, Pattern pattern) {
    for (int i = 0; i < lines.size(); i++) {
      if (pattern.matcher(lines.get(i)).matches()) {
        return OptionalInt.of(i);
      }
    }
    return OptionalInt.empty();
  }

  /** Behind the last line of the way up that is not empty. */
  private static int endOfUp(List<String> lines) {
    int up = find(lines, UP).orElseThrow();
    int end = lines.size();
    for (int i = up + 1; i < lines.size() && end == lines.size(); i++) {
      end = SECTION.matcher(lines.get(i)).matches() ? i : end;
    }
    while (lines.get(end - 1).isBlank()) {
      end--;
    }
    return end;
  }
}
