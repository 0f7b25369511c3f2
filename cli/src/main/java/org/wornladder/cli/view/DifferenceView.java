package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.lang3.StringUtils;
import org.wornladder.change.Difference;
import org.wornladder.change.Difference.FactChange;
import org.wornladder.cli.Terminal;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Part;

/**
 * Differences of two structures: what differs, and each fact on both sides compared.
 *
 * @param margin how many columns the lines for people stand further to the right
 * @param before what the first side is called, such as {@code expected}
 * @param after what the second side is called
 * @param removed what is said of an object that is on the first side only
 * @param added what is said of one that is on the second side only
 */
record DifferenceView(
    Terminal terminal, int margin, String before, String after, String removed, String added) {
  private static final String INDENT = "      ";
  private static final String CHANGED = "changed";
  private static final int GAP = 2;
  private static final int NARROWEST = 12;

  /** Where no terminal shows the lines. */
  private static final int WIDE = 140;

  DifferenceView(Terminal terminal, String before, String after, String removed, String added) {
    this(terminal, 0, before, after, removed, added);
  }

  /** The lines for people. */
  List<String> lines(List<Difference> differences) {
    Colors colors = new Colors(terminal);
    int words = Math.max(Math.max(removed.length(), added.length()), CHANGED.length());
    List<String> lines = new ArrayList<>();
    for (Difference difference : differences) {
      String word = SafeText.pad(word(difference), words);
      String painted =
          difference.change() == Difference.Change.REMOVED
              ? colors.bad(word)
              : colors.warning(word);
      lines.add("  " + painted + "  " + colors.strong(named(difference)));
      if (difference.change() == Difference.Change.CHANGED) {
        facts(difference).forEach(fact -> changed(fact, colors, lines));
      } else {
        whole(facts(difference), lines);
      }
    }
    lines.replaceAll(line -> " ".repeat(margin) + line);
    return lines;
  }

  private String word(Difference difference) {
    return switch (difference.change()) {
      case ADDED -> added;
      case REMOVED -> removed;
      case CHANGED -> CHANGED;
    };
  }

  private static String named(Difference difference) {
    return SafeText.line(difference.description());
  }

  /** An object that is on one side only. */
  private void whole(List<FactChange> facts, List<String> lines) {
    int label = facts.stream().mapToInt(fact -> fact.name().length()).max().orElse(0);
    int width = room() - label - GAP;
    for (FactChange fact : facts) {
      String name = fact.name();
      for (String part : wrapped(fact.after().or(fact::before), width)) {
        lines.add((INDENT + SafeText.pad(name, label) + "  " + part).stripTrailing());
        name = "";
      }
    }
  }

  /** A fact on both sides: compared where there is room, otherwise below each other. */
  private void changed(FactChange fact, Colors colors, List<String> lines) {
    int title = Math.max(before.length(), after.length());
    String left = fact.before().map(SafeText::lines).orElse("-");
    String right = fact.after().map(SafeText::lines).orElse("-");
    lines.add(INDENT + colors.faint(fact.name()));
    int half = (room() - GAP) / 2 - title - GAP;
    boolean beside =
        half >= NARROWEST
            && (left + right).indexOf('\n') < 0
            && Math.max(SafeText.width(left), SafeText.width(right)) <= half;
    if (beside) {
      int width = Math.max(SafeText.width(left), NARROWEST);
      lines.add(
          (INDENT
                  + "  "
                  + colors.faint(before)
                  + "  "
                  + SafeText.pad(marked(left, right, colors), width)
                  + "  "
                  + colors.faint(after)
                  + "  "
                  + marked(right, left, colors))
              .stripTrailing());
    } else {
      side(before, left, right, title, colors, lines);
      side(after, right, left, title, colors, lines);
    }
  }

  private void side(
      String name, String text, String other, int title, Colors colors, List<String> lines) {
    String label = name;
    String shown = text.indexOf('\n') < 0 ? marked(text, other, colors) : text;
    for (String part : wrapped(Optional.of(shown), room() - title - GAP)) {
      String head = colors.faint(SafeText.pad(label, title));
      lines.add((INDENT + "  " + head + "  " + part).stripTrailing());
      label = "";
    }
  }

  /** A text in which the part that differs from another one is set off. */
  private static String marked(String text, String other, Colors colors) {
    int begin = StringUtils.indexOfDifference(text, other);
    if (begin < 0) {
      return text;
    }
    int end = 0;
    int most = Math.min(text.length(), other.length()) - begin;
    while (end < most
        && text.charAt(text.length() - 1 - end) == other.charAt(other.length() - 1 - end)) {
      end++;
    }
    String middle = text.substring(begin, text.length() - end);
    return text.substring(0, begin)
        + colors.difference(middle)
        + text.substring(text.length() - end);
  }

  private int room() {
    return (terminal.outIsTerminal() ? terminal.width() : WIDE) - INDENT.length() - margin;
  }

  /** What differs, and of a whole object its parts' names. */
  private static List<FactChange> facts(Difference difference) {
    List<FactChange> facts = new ArrayList<>(difference.facts());
    if (difference.change() != Difference.Change.CHANGED) {
      Map<Kind, List<String>> parts = new EnumMap<>(Kind.class);
      for (Part part : difference.either().parts()) {
        parts.computeIfAbsent(part.kind(), kind -> new ArrayList<>()).add(part.name());
      }
      parts.forEach(
          (kind, names) -> {
            Optional<String> all = Optional.of(String.join(", ", names));
            boolean added = difference.change() == Difference.Change.ADDED;
            String word = names.size() == 1 ? kind.label() : kind.plural();
            facts.add(
                new FactChange(
                    word, added ? Optional.empty() : all, added ? all : Optional.empty()));
          });
    }
    return facts;
  }

  /** A value as lines of at most a width; what is not set is a dash. */
  private static List<String> wrapped(Optional<String> value, int width) {
    return SafeText.lines(value.orElse("-"))
        .replace("\t", "  ")
        .lines()
        .flatMap(line -> Wrapping.words(line.stripTrailing(), width).stream())
        .toList();
  }

  private String change(Difference difference) {
    return difference.change() == Difference.Change.CHANGED ? "differs" : word(difference);
  }

  /** The differences as JSON objects. */
  List<Json> json(List<Difference> differences) {
    List<Json> list = new ArrayList<>();
    for (Difference difference : differences) {
      List<Json> facts = new ArrayList<>();
      for (FactChange fact : facts(difference)) {
        facts.add(
            new Json()
                .put("fact", fact.name())
                .put(before, fact.before())
                .put(after, fact.after()));
      }
      list.add(
          new Json()
              .put("change", change(difference))
              .put("kind", difference.kind().label())
              .put("name", difference.name())
              .put("table", Optional.of(difference.table()).filter(table -> !table.isEmpty()))
              .put("facts", facts));
    }
    return list;
  }

  /** The differences as a table in Markdown, a line a fact. */
  List<String> markdown(List<Difference> differences) {
    List<String> lines = new ArrayList<>();
    lines.add("| | what | fact | " + before + " | " + after + " |");
    lines.add("|---|---|---|---|---|");
    for (Difference difference : differences) {
      String what = "| " + word(difference) + " | " + cell(named(difference));
      List<FactChange> facts = facts(difference);
      if (facts.isEmpty()) {
        lines.add(what + " | | | |");
      }
      for (FactChange fact : facts) {
        lines.add(
            what
                + " | "
                + fact.name()
                + " | "
                + code(fact.before())
                + " | "
                + code(fact.after())
                + " |");
        what = "| | ";
      }
    }
    return lines;
  }

  private static String code(Optional<String> value) {
    return value.map(text -> "<code>" + cell(text).replace("\\n", "<br>") + "</code>").orElse("");
  }

  /** Text inside a cell: nothing in it is read as Markdown or HTML. */
  static String cell(String text) {
    return SafeText.line(text)
        .replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replace("|", "\\|")
        .replace("*", "\\*")
        .replace("_", "\\_")
        .replace("`", "\\`");
  }
}
