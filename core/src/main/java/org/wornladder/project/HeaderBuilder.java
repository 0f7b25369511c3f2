package org.wornladder.project;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.wornladder.sql.Place;

/** Gathers the directives above a script's first section. */
final class HeaderBuilder {
  /** The words of the risks. */
  static final List<String> RISKS = List.of("erases", "may-fail", "blocks", "breaks-old-code");

  private final Problems problems;
  private final List<Condition> conditions = new ArrayList<>();
  private final List<String> steering = new ArrayList<>();
  private Optional<String> about = Optional.empty();
  private boolean outsideTransaction;
  private boolean passes;
  private boolean always;
  private List<String> onlyIn = List.of();
  private List<String> lifts = List.of();
  private List<String> needs = List.of();
  private List<String> accepts = List.of();
  private Optional<String> statementEnd = Optional.empty();
  private Optional<FoldedRange> folds = Optional.empty();
  private Optional<Batching> batching = Optional.empty();
  private Optional<Duration> lag = Optional.empty();
  private Duration pause = Duration.ZERO;

  /** How a file writes its directives. */
  enum Form {
    SQL,
    JSON
  }

  private final Form form;

  HeaderBuilder(Problems problems, Form form) {
    this.form = form;
    this.problems = problems;
  }

  Header build() {
    return new Header(
        about,
        outsideTransaction,
        List.copyOf(conditions),
        passes,
        onlyIn,
        lifts,
        needs,
        always,
        accepts,
        statementEnd,
        batching.map(one -> new Batching(one.rows(), one.key(), pause, lag)),
        folds,
        List.copyOf(steering));
  }

  void take(String name, String value, Place place) {
    switch (name) {
      case "about" -> about = Optional.of(value).filter(text -> !text.isEmpty());
      case "run" -> run(value, place);
      case "when" -> when(value, place);
      case "when-sql" -> whenSql(value, place);
      case "otherwise" -> otherwise(value, place);
      case "only-in" -> {
        onlyIn = names(name, value, place);
        steer(name, String.join(", ", onlyIn));
      }
      case "lifts" -> {
        lifts = names(name, value, place);
        steer(name, String.join(", ", lifts));
      }
      case "needs" -> needs = names(name, value, place);
      case "always" -> always = true;
      case "accepts" -> accepts(value, place);
      case "statement-end" -> statementEnd(value, place);
      case "folds" -> folds(value, place);
      case "in-batches-of" -> batches(value, place);
      case "pause" -> pause = time("pause", value, place).orElse(Duration.ZERO);
      case "replicas-within" -> lag = time("replicas-within", value, place);
      default -> throw new IllegalArgumentException("not a header directive: " + name);
    }
  }

  /** The parts of a list with commas, without blanks and empty parts. */
  static List<String> list(String value) {
    return Arrays.stream(value.split(",")).map(String::strip).filter(s -> !s.isEmpty()).toList();
  }

  private List<String> names(String name, String value, Place place) {
    List<String> names = list(value);
    if (names.isEmpty()) {
      problems.error(place, name + " names nothing", written(name, "NAME, NAME"));
    }
    return names;
  }

  /** Advice to write a directive. */
  private String written(String name, String value) {
    return form == Form.SQL
        ? "write --| " + name + ": " + value
        : "write \"" + name + "\": \"" + value + "\"";
  }

  private void steer(String name, String value) {
    steering.add(name + ": " + value);
  }

  private void run(String value, Place place) {
    if (value.equals("outside-transaction")) {
      outsideTransaction = true;
      steer("run", value);
    } else {
      String found = "run cannot be '" + value + "'";
      problems.error(place, found, NearestWord.advice(value, List.of("outside-transaction")));
    }
  }

  private void accepts(String value, Place place) {
    int because = value.indexOf("because");
    accepts = list(because < 0 ? value : value.substring(0, because));
    if (because < 0 || value.substring(because + "because".length()).isBlank()) {
      problems.error(place, "accepts gives no reason", written("accepts", "erases, because TEXT"));
    }
    for (String risk : accepts) {
      if (!RISKS.contains(risk)) {
        problems.error(place, "'" + risk + "' is not a risk", NearestWord.advice(risk, RISKS));
      }
    }
  }

  private void statementEnd(String value, Place place) {
    if (value.isEmpty() || value.contains(" ")) {
      problems.error(
          place, "statement-end names no word", "write --| statement-end: WORD, such as / or GO");
      return;
    }
    statementEnd = Optional.of(value);
    steer("statement-end", value);
  }

  private void batches(String value, Place place) {
    batching = BatchingReader.read(value);
    if (batching.isPresent()) {
      steer("in-batches-of", value);
    } else {
      problems.error(
          place, "'" + value + "' says no batches", "write --| in-batches-of: 5000 by id");
    }
  }

  private Optional<Duration> time(String name, String value, Place place) {
    Optional<Duration> read = Durations.read(value);
    if (read.isEmpty()) {
      problems.error(place, name + " cannot be '" + value + "'", "write a time such as 50ms or 2s");
    }
    return read;
  }

  private void folds(String value, Place place) {
    folds = FoldedRange.parse(value);
    if (folds.isEmpty()) {
      problems.error(
          place, "this does not say what is folded", "leave the line as the fold wrote it");
    }
  }

  private void when(String value, Place place) {
    Optional<Condition> condition = ConditionParser.parse(value);
    if (condition.isPresent()) {
      conditions.add(condition.get());
      steer("when", value);
    } else {
      String forms = "write table T exists, column T.C missing, index I exists or view V missing";
      problems.error(place, "'" + value + "' is not a condition", forms);
    }
  }

  private void whenSql(String value, Place place) {
    if (value.isEmpty()) {
      problems.error(place, "when-sql holds no query", "write --| when-sql: SELECT …");
      return;
    }
    conditions.add(new Condition.Query(value));
    steer("when-sql", value);
  }

  private void otherwise(String value, Place place) {
    if (!value.equals("pass") && !value.equals("stop")) {
      String found = "otherwise cannot be '" + value + "'";
      problems.error(place, found, NearestWord.advice(value, List.of("pass", "stop")));
    }
    passes = value.equals("pass");
    steer("otherwise", value);
  }
}
