package org.wornladder.project;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import org.wornladder.ProjectException;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Place;
import org.wornladder.sql.SqlTextException;

/** Reads the directives and sections of a rung or standing script. */
public final class ScriptParser {
  /** What is read, which decides the directives that may be in it. */
  public enum Form {
    RUNG(
        "about",
        "run",
        "when",
        "when-sql",
        "otherwise",
        "only-in",
        "lifts",
        "accepts",
        "folds",
        "in-batches-of",
        "statement-end",
        "pause",
        "replicas-within"),
    STANDING("about", "needs", "always", "only-in", "statement-end"),
    /** A way down out of the journal: it may have sections down alone. */
    JOURNALLED("about", "run", "lifts", "needs", "always", "only-in", "statement-end");

    private final List<String> directives;

    Form(String... directives) {
      this.directives = List.of(directives);
    }

    private List<String> words() {
      List<String> words = new ArrayList<>(directives);
      words.addAll(List.of("up", "down", "no way down"));
      return words;
    }
  }

  private static final String MARK = "--|";
  private static final String NO_WAY_DOWN = "no way down";

  private final String file;
  private final String text;
  private final Form form;
  private final Predicate<String> otherEngines;
  private final Problems problems;
  private final Map<String, Place> seen = new LinkedHashMap<>();
  private final List<Section> sections = new ArrayList<>();
  private final HeaderBuilder header;
  private Optional<String> noWayDown = Optional.empty();

  private Optional<Opening> open = Optional.empty();

  /** A section whose end is not reached yet. */
  private record Opening(
      Direction direction, List<String> engines, int textStart, Place directive) {}

  private ScriptParser(
      String file, String text, Form form, Predicate<String> otherEngines, Problems problems) {
    this.otherEngines = otherEngines;
    this.file = file;
    this.text = text;
    this.form = form;
    this.problems = problems;
    header = new HeaderBuilder(problems, HeaderBuilder.Form.SQL);
  }

  /**
   * @param otherEngines whether a name is that of an engine besides those that are built in
   */
  static Script parse(
      String file, String text, Form form, Predicate<String> otherEngines, Problems problems) {
    return new ScriptParser(file, text, form, otherEngines, problems).run();
  }

  /**
   * A script out of the journal.
   *
   * @throws ProjectException if it cannot be read
   */
  public static Script parseJournalled(String name, String text) {
    Problems problems = new Problems();
    // Its engines were known when it was recorded.
    Script script = parse(name, text, Form.JOURNALLED, engine -> true, problems);
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    return script;
  }

  private Script run() {
    int line = 1;
    int at = text.startsWith("\uFEFF") ? 1 : 0;
    int blockStart = at;
    int blockLine = 1;
    while (at < text.length()) {
      int end = text.indexOf('\n', at);
      int next = end < 0 ? text.length() : end + 1;
      if (text.startsWith(MARK, at)) {
        endBlock(blockStart, at, blockLine);
        directive(text.substring(at + MARK.length(), end < 0 ? next : end).strip(), line, next);
        blockStart = next;
        blockLine = line + 1;
      }
      at = next;
      line++;
    }
    endBlock(blockStart, text.length(), blockLine);
    checkWhole();
    return new Script(file, header.build(), List.copyOf(sections), noWayDown, text);
  }

  /** Ends what stood before a directive: a section's text, or lines before the first section. */
  private void endBlock(int from, int to, int line) {
    if (from >= to && open.isEmpty()) {
      return;
    }
    String block = text.substring(from, to);
    Place place = new Place(file, line, 1);
    if (open.isEmpty()) {
      refuseSql(block, place);
      return;
    }
    Opening opening = open.get();
    open = Optional.empty();
    boolean empty = !hasMeaning(block);
    if (empty && opening.direction() == Direction.UP) {
      problems.error(opening.directive(), "the way up is empty", "write its SQL below this line");
    } else if (!empty) {
      sections.add(new Section(opening.direction(), opening.engines(), block, place));
    }
  }

  private void refuseSql(String block, Place place) {
    if (hasMeaning(block)) {
      int first = block.length() - block.stripLeading().length();
      problems.error(
          place.plus(block, first), "SQL stands before the first section", "write --| up above it");
    }
  }

  private static boolean hasMeaning(String block) {
    int first = 0;
    while (first < block.length() && block.charAt(first) <= ' ') {
      first++;
    }
    if (first == block.length()) {
      return false;
    }
    if (Character.isLetter(block.charAt(first))) {
      // What nearly all blocks begin with; the rest is examined token by token.
      return true;
    }
    try {
      Lexer lexer = new Lexer(block, Dialects.NEUTRAL);
      while (lexer.advance()) {
        if (lexer.kind().isMeaning()) {
          return true;
        }
      }
      return false;
    } catch (SqlTextException e) {
      return true;
    }
  }

  private void directive(String body, int line, int textStart) {
    Place place = new Place(file, line, 1);
    int colon = body.indexOf(':');
    String name = (colon < 0 ? body : body.substring(0, colon)).strip();
    String value = colon < 0 ? "" : body.substring(colon + 1).strip();
    if (colon < 0 && isSection(name, Direction.UP)) {
      section(Direction.UP, name, place, textStart);
    } else if (colon < 0 && isSection(name, Direction.DOWN)) {
      section(Direction.DOWN, name, place, textStart);
    } else if (name.equals(NO_WAY_DOWN)) {
      noWayDown(value, place);
    } else if (!form.directives.contains(name)) {
      String found = "unknown directive '" + name + "'";
      problems.error(place, found, NearestWord.advice(name, form.words()));
    } else if (!sections.isEmpty() || seen.containsKey("up") || seen.containsKey("down")) {
      problems.error(place, name + " stands after a section", "move it above the first section");
    } else if (!name.startsWith("when") && isTwice(name, place)) {
      return;
    } else {
      header.take(name, value, place);
    }
  }

  private static boolean isSection(String words, Direction direction) {
    String word = direction.label();
    return words.startsWith(word)
        && (words.length() == word.length() || words.charAt(word.length()) <= ' ');
  }

  private boolean isTwice(String name, Place place) {
    Place before = seen.putIfAbsent(name, place);
    if (before != null) {
      String found = "'" + name + "' occurs twice; first on line " + before.line();
      problems.error(place, found, "keep one of them");
    }
    return before != null;
  }

  private void section(Direction direction, String words, Place place, int textStart) {
    String rest = words.substring(direction.label().length()).strip();
    List<String> engines = List.of();
    if (!rest.isEmpty()) {
      if (!rest.startsWith("on ")) {
        String found = "'" + words + "' is not a section";
        problems.error(place, found, "write --| " + direction.label() + " on ENGINE");
      }
      engines = HeaderBuilder.list(rest.substring(Math.min(3, rest.length())));
      engines.forEach(engine -> checkEngine(engine, place));
    }
    seen.putIfAbsent(direction.label(), place);
    for (String key : engines.isEmpty() ? List.of("") : engines) {
      isTwice(
          key.isEmpty() ? direction.label() + " (plain)" : direction.label() + " on " + key, place);
    }
    open = Optional.of(new Opening(direction, engines, textStart, place));
  }

  private void checkEngine(String engine, Place place) {
    List<String> known = Dialects.ALL.stream().map(Dialect::name).toList();
    if (!known.contains(engine) && !otherEngines.test(engine)) {
      problems.error(place, "unknown engine '" + engine + "'", NearestWord.advice(engine, known));
    }
  }

  private void noWayDown(String reason, Place place) {
    if (isTwice(NO_WAY_DOWN, place)) {
      return;
    }
    if (reason.isEmpty()) {
      problems.error(place, "no way down gives no reason", "write --| no way down: REASON");
    }
    noWayDown = Optional.of(reason);
  }

  private void checkWhole() {
    boolean up = false;
    boolean down = false;
    for (Section section : sections) {
      up |= section.direction() == Direction.UP;
      down |= section.direction() == Direction.DOWN;
    }
    if (!up && !seen.containsKey("up") && form != Form.JOURNALLED) {
      problems.error(Place.of(file), "there is no way up", "write --| up and its SQL below it");
    }
    if (seen.containsKey("run") && seen.containsKey("lifts")) {
      String next = "lift in a rung of its own, before and after this one";
      problems.error(seen.get("lifts"), "lifts needs a transaction, and run refuses one", next);
    }
    if (down && noWayDown.isPresent()) {
      Place place = seen.get(NO_WAY_DOWN);
      problems.error(place, "there is a way down, and a reason for none", "keep one of the two");
    }
  }
}
