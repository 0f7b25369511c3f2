package org.wornladder.engine;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.wornladder.sql.Statement;

/**
 * Statements that reach out of their database, recognised by their first keywords.
 *
 * @param objects what lies outside, behind CREATE, ALTER, DROP, RENAME or COMMENT ON
 * @param longer the same for two words
 * @param grants whether every grant is kept outside of the database; where that is false, only a
 *     role that is granted to another is
 */
public record ExternalStatements(Set<String> objects, Set<String> longer, boolean grants) {
  private static final int WORDS = 40;
  private static final Set<String> MAKING = Set.of("CREATE", "ALTER", "DROP", "RENAME", "COMMENT");
  private static final Set<String> BETWEEN = Set.of("OR", "REPLACE", "ON");

  /** What a statement reaches; empty if it stays inside. */
  public Optional<String> in(Statement statement) {
    List<String> words = StatementWords.first(statement, WORDS);
    String first = words.get(0);
    if (first.equals("USE")) {
      return Optional.of("another database");
    }
    if (first.equals("GRANT") || first.equals("REVOKE")) {
      boolean role = !words.contains("ON");
      return grants || role ? Optional.of("roles of the server") : Optional.empty();
    }
    if (!MAKING.contains(first)) {
      return Optional.empty();
    }
    int at = 1;
    while (at < words.size() && BETWEEN.contains(words.get(at))) {
      at++;
    }
    String object = at < words.size() ? words.get(at) : "";
    String two = at + 1 < words.size() ? object + " " + words.get(at + 1) : object;
    boolean outside = objects.contains(object) && !longer.contains(two);
    return outside || longer.contains(two)
        ? Optional.of((longer.contains(two) ? two : object).toLowerCase(Locale.ROOT))
        : Optional.empty();
  }
}
