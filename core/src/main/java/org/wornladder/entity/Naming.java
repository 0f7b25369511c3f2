package org.wornladder.entity;

import java.util.Locale;

/** How names of classes become names of tables and columns. */
public enum Naming {
  /** As they are written, or as the standard derives them. */
  AS_WRITTEN,
  /**
   * In lower case, with an underscore before each capital: {@code weightKg} is {@code weight_kg}.
   */
  SNAKE_CASE;

  /** The name as the database has it, with its quotes where it has some. */
  String of(String name) {
    if (this == AS_WRITTEN || isQuoted(name)) {
      return name;
    }
    StringBuilder snake = new StringBuilder(name.replace('.', '_'));
    for (int i = 1; i < snake.length() - 1; i++) {
      boolean begins =
          Character.isLowerCase(snake.charAt(i - 1))
              && Character.isUpperCase(snake.charAt(i))
              && Character.isLowerCase(snake.charAt(i + 1));
      if (begins) {
        snake.insert(i++, '_');
      }
    }
    return snake.toString().toLowerCase(Locale.ROOT);
  }

  static boolean isQuoted(String name) {
    return name.length() > 2
        && (name.charAt(0) == '"' || name.charAt(0) == '`')
        && name.charAt(name.length() - 1) == name.charAt(0);
  }

  /** The name without quotes. */
  static String plain(String name) {
    return isQuoted(name) ? name.substring(1, name.length() - 1) : name;
  }
}
