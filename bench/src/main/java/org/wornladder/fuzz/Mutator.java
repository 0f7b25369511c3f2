package org.wornladder.fuzz;

import java.util.List;
import java.util.Random;

/** Makes new texts out of old ones: the same for the same number. */
final class Mutator {
  /** Characters and words in which readers go wrong. */
  private static final List<String> BITS =
      List.of(
          ";",
          "'",
          "\"",
          "`",
          "$$",
          "$a$",
          "--",
          "/*",
          "*/",
          "\\",
          "\n",
          "\r",
          "\0",
          "(",
          ")",
          "[",
          "]",
          "{",
          "}",
          ",",
          ":",
          "- ",
          "#",
          "&a",
          "*a",
          "!!",
          "%",
          "@{",
          "${",
          "}",
          "--| up\n",
          "--| down\n",
          "--| when: ",
          "BEGIN",
          "END",
          "END IF",
          "CASE",
          "CREATE TRIGGER t ",
          "DELIMITER //\n",
          "COPY t FROM stdin;\n",
          "\\.\n",
          "E'",
          "U&'",
          "N'",
          "/*!",
          "*/;",
          "\uFEFF",
          "\u0000",
          "\uD83C",
          "\uD83C\uDF4E",
          "é",
          "1e999",
          "-",
          "null",
          "true",
          "~",
          "|\n",
          ">\n",
          "\t",
          "  ",
          "0x",
          "q'[",
          "IF",
          "ELSE",
          "LOOP",
          "DECLARE",
          "AS",
          "ATOMIC");

  private final Random random;

  Mutator(long seed) {
    random = new Random(seed);
  }

  Random random() {
    return random;
  }

  <T> T any(List<T> list) {
    return list.get(random.nextInt(list.size()));
  }

  /**
   * A text with up to eight changes.
   *
   * @param others texts that pieces are taken from
   */
  String mutated(String text, List<String> others) {
    StringBuilder out = new StringBuilder(text);
    for (int changes = random.nextInt(8); changes >= 0; changes--) {
      int at = random.nextInt(out.length() + 1);
      int end = Math.min(out.length(), at + random.nextInt(20));
      switch (random.nextInt(6)) {
        case 0 -> out.delete(at, end);
        case 1 -> out.insert(at, any(BITS));
        case 2 -> out.insert(at, out.substring(at, end));
        case 3 -> out.replace(at, end, any(BITS));
        case 4 -> out.insert(at, (char) random.nextInt(0x300));
        default -> {
          String other = any(others);
          int from = random.nextInt(other.length() + 1);
          out.insert(at, other, from, Math.min(other.length(), from + random.nextInt(60)));
        }
      }
    }
    return out.toString();
  }
}
