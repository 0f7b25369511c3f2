package org.wornladder.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * What is in a new rung.
 *
 * @param up statements with their end marks; none for an empty rung
 * @param down likewise; none if no way down can be written
 * @param noWayDown why there is none; empty if there is one, or it is left to be written
 * @param remarks lines for whoever reads the rung
 * @param directives of its header, such as {@code run: outside-transaction}
 */
public record RungDraft(
    List<String> up,
    List<String> down,
    Optional<String> noWayDown,
    List<String> remarks,
    List<String> directives)
    implements NewRung {
  private static final Pattern DIRECTIVE = Pattern.compile("(?m)^--\\|");

  public static final RungDraft EMPTY = new RungDraft(List.of(), List.of(), Optional.empty());

  /** One of which nothing is to be said. */
  public RungDraft(List<String> up, List<String> down, Optional<String> noWayDown) {
    this(up, down, noWayDown, List.of());
  }

  /** One without directives. */
  public RungDraft(
      List<String> up, List<String> down, Optional<String> noWayDown, List<String> remarks) {
    this(up, down, noWayDown, remarks, List.of());
  }

  /** The same with directives. */
  public RungDraft with(List<String> others) {
    return new RungDraft(up, down, noWayDown, remarks, others);
  }

  public RungDraft {
    directives = List.copyOf(directives);
    remarks = List.copyOf(remarks);
    up = List.copyOf(up);
    down = List.copyOf(down);
  }

  /**
   * Statements that came out of a database, as a rung's lines: with their end marks, and with what
   * would be a value's place or a directive kept as it is.
   */
  public static List<String> lines(List<String> statements) {
    List<String> lines = new ArrayList<>();
    for (String statement : statements) {
      String plain = DIRECTIVE.matcher(statement).replaceAll(" --|");
      lines.add(plain.replace("@{", "@@{") + ";\n");
    }
    return lines;
  }

  /**
   * The rung as its file has it.
   *
   * @param words what it is for
   */
  public String written(String words) {
    return text(ProjectWriter.about(words));
  }

  /** The way down alone, as the journal keeps one. */
  public String wayDownText() {
    return "--| down\n" + String.join("\n", down) + "\n";
  }

  @Override
  public String ending() {
    return RungNames.SQL;
  }

  @Override
  public String text(String about) {
    StringBuilder text = new StringBuilder();
    text.append("--| about: ").append(about).append('\n');
    directives.forEach(one -> text.append("--| ").append(one).append('\n'));
    remarks.forEach(remark -> text.append("-- ").append(remark).append('\n'));
    noWayDown.ifPresent(reason -> text.append("--| no way down: ").append(reason).append('\n'));
    text.append("--| up\n");
    up.forEach(statement -> text.append(statement).append('\n'));
    if (up.isEmpty()) {
      text.append('\n');
    }
    if (noWayDown.isEmpty()) {
      text.append("--| down\n");
      down.forEach(statement -> text.append(statement).append('\n'));
      if (down.isEmpty()) {
        text.append('\n');
      }
    }
    return text.toString();
  }
}
