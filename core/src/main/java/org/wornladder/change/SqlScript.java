package org.wornladder.change;

import java.util.List;

/** Statements as one text. */
public final class SqlScript {
  private SqlScript() {}

  /** Each statement with its end mark, a blank line between them. */
  public static String of(List<String> statements) {
    StringBuilder text = new StringBuilder();
    for (String statement : statements) {
      text.append(text.isEmpty() ? "" : "\n").append(statement).append(";\n");
    }
    return text.toString();
  }
}
