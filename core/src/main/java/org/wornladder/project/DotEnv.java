package org.wornladder.project;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.sql.Place;

/** Reads {@code .env}: one {@code NAME=value} a line, with or without quotes, and comments. */
final class DotEnv {
  private static final Pattern LINE =
      Pattern.compile("\\s*(?:export\\s+)?([A-Za-z_][A-Za-z0-9_]*)\\s*=\\s*(.*?)\\s*");

  private DotEnv() {}

  static Map<String, String> read(String file, String text, Problems problems) {
    Map<String, String> variables = new LinkedHashMap<>();
    String[] lines = text.replace("\uFEFF", "").split("\\R", -1);
    for (int i = 0; i < lines.length; i++) {
      String line = lines[i].strip();
      if (line.isEmpty() || line.startsWith("#")) {
        continue;
      }
      Matcher parts = LINE.matcher(line);
      if (parts.matches()) {
        variables.put(parts.group(1), value(parts.group(2)));
      } else {
        Place place = new Place(file, i + 1, 0);
        problems.error(place, "this line sets no variable", "write NAME=value");
      }
    }
    return variables;
  }

  private static String value(String written) {
    if (written.length() >= 2) {
      char quote = written.charAt(0);
      if ((quote == '"' || quote == '\'') && written.charAt(written.length() - 1) == quote) {
        String inner = written.substring(1, written.length() - 1);
        return quote == '"'
            ? inner.replace("\\n", "\n").replace("\\\"", "\"").replace("\\\\", "\\")
            : inner;
      }
    }
    int comment = written.indexOf(" #");
    return comment < 0 ? written : written.substring(0, comment).stripTrailing();
  }
}
