package org.wornladder.project;

import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;
import org.wornladder.sql.Quoting;

/**
 * Puts values into the text of a section: {@code @{name}} as it is, {@code @{name:text}} as an SQL
 * string, {@code @{name:ident}} as a name; a second at sign in front keeps it as it is. In commands
 * of a document database {@code @{name}} is part of a string, and {@code {"@value": "name"}} stands
 * for the value itself: a number or truth value if it is one.
 *
 * @param text the section with its values put in
 * @param used the names of the values that it uses
 */
public record Substitution(String text, Set<String> used) {
  private static final String OPEN = "@{";
  private static final Pattern WHOLE =
      Pattern.compile("\\{\\s*\"@value\"\\s*:\\s*\"([^\"]*)\"\\s*\\}");

  /**
   * @param quoting how the engine writes strings and names
   * @throws ProjectException for a name that is not known, or a form that is not
   */
  public static Substitution in(Section section, Map<String, Value> values, Quoting quoting) {
    Set<String> used = new LinkedHashSet<>();
    String text = section.isJson() ? withWholeValues(section, values, used) : section.text();
    if (!text.contains(OPEN)) {
      return new Substitution(text, used);
    }
    StringBuilder out = new StringBuilder();
    int at = 0;
    for (int open = text.indexOf(OPEN); open >= 0; open = text.indexOf(OPEN, at)) {
      if (open > at && text.charAt(open - 1) == '@') {
        out.append(text, at, open - 1).append(OPEN);
        at = open + OPEN.length();
        continue;
      }
      int close = text.indexOf('}', open);
      Place place = section.place().plus(text, open);
      if (close < 0) {
        throw ProjectException.of(
            place, "@{ is never closed", "write @{name}, or @@{ for the signs");
      }
      String inner = text.substring(open + OPEN.length(), close);
      int colon = inner.indexOf(':');
      String name = colon < 0 ? inner : inner.substring(0, colon);
      used.add(name);
      out.append(text, at, open)
          .append(written(section, name, inner.substring(name.length()), values, quoting, place));
      at = close + 1;
    }
    return new Substitution(out.append(text, at, text.length()).toString(), used);
  }

  /** A text in which {@code {"@value": "name"}} is the value itself. */
  private static String withWholeValues(
      Section section, Map<String, Value> values, Set<String> used) {
    Matcher matcher = WHOLE.matcher(section.text());
    StringBuilder out = new StringBuilder();
    while (matcher.find()) {
      String name = matcher.group(1);
      Place place = section.place().plus(section.text(), matcher.start());
      used.add(name);
      matcher.appendReplacement(
          out, Matcher.quoteReplacement(JsonText.plainOrString(known(name, values, place).text())));
    }
    return matcher.appendTail(out).toString();
  }

  private static Value known(String name, Map<String, Value> values, Place place) {
    Value value = values.get(name);
    if (value == null) {
      throw ProjectException.of(
          place, "unknown value '" + name + "'", valueAdvice(name, values.keySet()));
    }
    return value;
  }

  private static String written(
      Section section,
      String name,
      String form,
      Map<String, Value> values,
      Quoting quoting,
      Place place) {
    Value value = known(name, values, place);
    if (section.isJson() && form.isEmpty()) {
      String string = JsonText.string(value.text());
      return string.substring(1, string.length() - 1);
    }
    return switch (section.isJson() ? "." + form : form) {
      case "" -> value.text();
      case ":text" -> quoting.text(value.text());
      case ":ident" -> quoting.name(value.text());
      default ->
          throw ProjectException.of(
              place,
              "'" + form.substring(1) + "' is not a form of a value",
              section.isJson() ? "write @{" + name + "}" : "write text or ident");
    };
  }

  private static String valueAdvice(String name, Set<String> known) {
    String near =
        NearestWord.to(name, known).map(word -> "did you mean " + word + "? or ").orElse("");
    return near + "write it under values: in " + ProjectReader.SETTINGS;
  }
}
