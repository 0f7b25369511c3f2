package org.wornladder.project;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.project.AtticSettings.Mode;

/** Reads {@code attic:} of an environment: a word, or a map of the word and limits. */
final class AtticReader {
  private static final String ATTIC = "attic";
  private static final List<String> MODES = List.of("off", "ask", "on");
  private static final Pattern SIZE = Pattern.compile("(\\d{1,12}) ?(|kB|MB|GB)");

  private final Problems problems;

  AtticReader(Problems problems) {
    this.problems = problems;
  }

  AtticSettings read(Fields environment) {
    if (environment.node(ATTIC).filter(YamlNode.Entries.class::isInstance).isEmpty()) {
      return new AtticSettings(
          mode(environment.choice(ATTIC, MODES)), OptionalLong.empty(), OptionalLong.empty());
    }
    Fields fields = new Fields(environment.map(ATTIC), problems);
    AtticSettings read =
        new AtticSettings(
            mode(fields.choice("keep", MODES)),
            size(fields, "most-rows"),
            size(fields, "most-bytes"));
    fields.end();
    return read;
  }

  private static Mode mode(Optional<String> word) {
    return word.map(one -> Mode.valueOf(one.toUpperCase(Locale.ROOT))).orElse(Mode.OFF);
  }

  private OptionalLong size(Fields fields, String key) {
    Optional<Template> text = fields.text(key);
    if (text.isEmpty()) {
      return OptionalLong.empty();
    }
    Matcher parts = SIZE.matcher(text.get().text());
    if (!parts.matches()) {
      problems.error(
          text.get().place(),
          key + " cannot be '" + text.get().text() + "'",
          "write a number, such as 100000, or 500 MB");
      return OptionalLong.empty();
    }
    long unit =
        switch (parts.group(2)) {
          case "kB" -> 1_000;
          case "MB" -> 1_000_000;
          case "GB" -> 1_000_000_000;
          default -> 1;
        };
    return OptionalLong.of(Long.parseLong(parts.group(1)) * unit);
  }
}
