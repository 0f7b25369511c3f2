package org.wornladder.project;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/** Writes CSV by RFC 4180, with an empty unquoted field for NULL. */
final class CsvText {
  private CsvText() {}

  /** A line without its end. */
  static String line(List<Optional<String>> values) {
    return values.stream()
        .map(value -> value.map(CsvText::field).orElse(""))
        .collect(Collectors.joining(","));
  }

  private static String field(String value) {
    boolean plain = !value.isEmpty() && value.chars().noneMatch(c -> ",\"\r\n".indexOf(c) >= 0);
    return plain ? value : "\"" + value.replace("\"", "\"\"") + "\"";
  }
}
