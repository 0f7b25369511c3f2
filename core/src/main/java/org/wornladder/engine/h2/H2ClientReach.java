package org.wornladder.engine.h2;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.engine.StatementWords;
import org.wornladder.sql.Statement;

/**
 * What a statement reaches outside of its database. H2 runs in the tool's own process, so its files
 * are that process's, and so is the code that it runs (H2, "SQL Grammar" and "Functions").
 */
final class H2ClientReach {
  private static final Set<String> FUNCTIONS =
      Set.of("CSVREAD", "CSVWRITE", "FILE_READ", "FILE_WRITE", "LINK_SCHEMA");

  private static final Set<String> CODE = Set.of("ALIAS", "AGGREGATE", "LINKED");
  private static final Set<String> BETWEEN =
      Set.of("OR", "REPLACE", "FORCE", "GLOBAL", "LOCAL", "TEMPORARY");

  private H2ClientReach() {}

  static Optional<String> of(Statement statement) {
    List<String> words = StatementWords.first(statement, Integer.MAX_VALUE);
    String first = words.get(0);
    boolean file =
        first.equals("RUNSCRIPT")
            || first.equals("BACKUP")
            || first.equals("SCRIPT") && words.contains("TO")
            || words.stream().map(H2ClientReach::unquoted).anyMatch(FUNCTIONS::contains);
    if (file) {
      return Optional.of("it reads or writes a file of this machine");
    }
    String made = first.equals("CREATE") ? made(words) : "";
    boolean code = CODE.contains(made) || made.equals("TRIGGER") && words.contains("AS");
    return code ? Optional.of("it runs code in this process") : Optional.empty();
  }

  private static String unquoted(String name) {
    return name.replace("\"", "").replace("`", "");
  }

  /** What a CREATE makes. */
  private static String made(List<String> words) {
    return words.stream().skip(1).filter(word -> !BETWEEN.contains(word)).findFirst().orElse("");
  }
}
