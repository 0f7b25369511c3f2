package org.wornladder.engine;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import java.util.StringTokenizer;

/**
 * Words that one of the engines reserves, so that such a name must be quoted: the lists of their
 * documentation taken together (SQL:2023, 5.2; "SQL Key Words", "Reserved Words", "SQLite
 * Keywords", "Keywords / Reserved Words").
 */
public final class ReservedWords {
  private static final Set<String> WORDS = read();

  private ReservedWords() {}

  /** Whether a word is reserved by an engine, in whatever case. */
  public static boolean contains(String word) {
    return WORDS.contains(word.toLowerCase(Locale.ROOT));
  }

  private static Set<String> read() {
    try (InputStream in = ReservedWords.class.getResourceAsStream("reserved-words.txt")) {
      StringTokenizer words =
          new StringTokenizer(new String(in.readAllBytes(), StandardCharsets.UTF_8));
      Set<String> read = new HashSet<>();
      while (words.hasMoreTokens()) {
        read.add(words.nextToken());
      }
      return read;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
