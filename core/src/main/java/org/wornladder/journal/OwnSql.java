package org.wornladder.journal;

import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.wornladder.engine.Session;

/** Statements about the tool's own tables, whose columns some engines know in quotes alone. */
final class OwnSql {
  private static final Pattern COLUMN = Pattern.compile("\\[(\\w+)\\]");

  private OwnSql() {}

  /**
   * A statement as a session runs it.
   *
   * @param text with the tool's own columns in square brackets
   */
  static String of(Session session, String text) {
    return COLUMN.matcher(text).replaceAll(found -> session.ownColumn(found.group(1)));
  }

  /** Columns as {@link #of} takes them, with a comma and a blank between them. */
  static String list(List<String> columns) {
    return columns.stream().map(name -> "[" + name + "]").collect(Collectors.joining(", "));
  }
}
