package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.change.Difference;
import org.wornladder.change.Difference.FactChange;
import org.wornladder.cli.Terminal;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;

/**
 * Differences of two structures: what differs, and each fact on both sides beside each other.
 *
 * @param before what the first side is called, such as {@code expected}
 * @param after what the second side is called
 * @param removed what is said of a thing that is on the first side only
 * @param added what is said of one that is on the second side only
 */
record DifferenceView(
    Terminal terminal, String before, String after, String removed, String added) {
  private static final String INDENT = "      ";
  private static final int NARROWEST = 24;
  private static final int WIDEST = 60;

  /** The lines for people. */
  List<String> lines(List<Difference> differences) {
    Colors paint = new Colors(terminal);
    int words = Math.max(Math.max(removed.length(), added.length()), "differs".length());
    List<String> lines = new ArrayList<>();
    for (Difference difference : differences) {
      String word = SafeText.pad(word(difference), words);
      String painted =
          switch (difference.change()) {
            case ADDED -> paint.warning(word);
            case REMOVED -> paint.bad(word);
            case CHANGED -> paint.warning(word);
          };
      lines.add("  " + painted + "  " + paint.strong(named(difference)));
      facts(difference, paint, lines);
    }
    return lines;
  }

  private String word(Difference difference) {
    return switch (difference.change()) {
      case ADDED -> added;
      case REMOVED -> removed;
      case CHANGED -> "differs";
    };
  }

  private static String named(Difference difference) {
    return SafeText.line(difference.words());
  }

  private void facts(Difference difference, Colors paint, List<String> lines) {
    List<FactChange> facts = facts(difference);
    int label = facts.stream().mapToInt(fact -> fact.word().length()).max().orElse(0);
    boolean both = difference.change() == Difference.Change.CHANGED;
    int width = Math.min(WIDEST, (terminal.width() - INDENT.length() - label - 4) / 2);
    int column = Math.max(NARROWEST, width);
    if (both) {
      String head = INDENT + " ".repeat(label + 2) + SafeText.pad(before, column) + "  " + after;
      lines.add(paint.faint(head));
    }
    for (FactChange fact : facts) {
      List<String> left = both ? wrapped(fact.before(), column) : List.of();
      List<String> right =
          both ? wrapped(fact.after(), column) : wrapped(one(fact), 2 * column + 2);
      for (int i = 0; i < Math.max(left.size(), right.size()); i++) {
        String name = i == 0 ? fact.word() : "";
        String first = both ? SafeText.pad(at(left, i), column) + "  " : "";
        lines.add(
            (INDENT + SafeText.pad(name, label) + "  " + first + at(right, i)).stripTrailing());
      }
    }
  }

  /** What differs, and of a whole thing its parts' names. */
  private static List<FactChange> facts(Difference difference) {
    List<FactChange> facts = new ArrayList<>(difference.facts());
    if (difference.change() != Difference.Change.CHANGED) {
      Map<Kind, List<String>> parts = new EnumMap<>(Kind.class);
      for (Element part : difference.after().or(difference::before).orElseThrow().parts()) {
        parts.computeIfAbsent(part.kind(), kind -> new ArrayList<>()).add(part.name());
      }
      parts.forEach(
          (kind, names) -> {
            Optional<String> all = Optional.of(String.join(", ", names));
            boolean added = difference.change() == Difference.Change.ADDED;
            String word = names.size() == 1 ? kind.word() : kind.plural();
            facts.add(
                new FactChange(
                    word, added ? Optional.empty() : all, added ? all : Optional.empty()));
          });
    }
    return facts;
  }

  private static Optional<String> one(FactChange fact) {
    return fact.after().or(fact::before);
  }

  private static String at(List<String> lines, int index) {
    return index < lines.size() ? lines.get(index) : "";
  }

  /** A value as lines of at most a width; what is not set is a dash. */
  private static List<String> wrapped(Optional<String> value, int width) {
    List<String> lines = new ArrayList<>();
    for (String line : SafeText.lines(value.orElse("-")).replace("\t", "  ").split("\n", -1)) {
      String rest = line.stripTrailing();
      while (SafeText.width(rest) > width) {
        int end = rest.lastIndexOf(' ', width);
        int cut = end <= width / 2 ? Math.min(width, rest.length()) : end;
        lines.add(rest.substring(0, cut));
        rest = "  " + rest.substring(cut).stripLeading();
      }
      lines.add(rest);
    }
    return lines;
  }

  /** The differences as JSON objects. */
  List<Json> json(List<Difference> differences) {
    List<Json> list = new ArrayList<>();
    for (Difference difference : differences) {
      List<Json> facts = new ArrayList<>();
      for (FactChange fact : facts(difference)) {
        facts.add(
            new Json()
                .put("fact", fact.word())
                .put(before, fact.before())
                .put(after, fact.after()));
      }
      list.add(
          new Json()
              .put("change", word(difference))
              .put("kind", difference.kind().word())
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
                + fact.word()
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
