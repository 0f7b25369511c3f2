package org.wornladder.engine.mariadb;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;
import org.wornladder.sql.Statement;
import org.wornladder.sql.Token;
import org.wornladder.sql.TokenKind;

/**
 * A statement that changes one table, and can say how it is to be done (MariaDB manual, "ALTER
 * TABLE", "CREATE INDEX", "DROP INDEX").
 *
 * @param tokens those that count
 * @param table which of them names the table
 */
record MariadbAlteration(String text, List<Token> tokens, int table, boolean createsIndex) {
  /** Behind ADD. */
  private static final Set<String> INDEXES =
      Set.of("INDEX", "KEY", "UNIQUE", "FULLTEXT", "SPATIAL", "PRIMARY", "CONSTRAINT");

  /** What a statement changes; empty if it is another one, or concerns a second table. */
  static Optional<MariadbAlteration> of(Statement statement) {
    String text = statement.text();
    List<Token> tokens =
        statement.tokens().stream().filter(token -> token.kind().isMeaning()).toList();
    MariadbAlteration all = new MariadbAlteration(text, tokens, 0, false);
    if (all.is(0, "ALTER")) {
      int table = all.find(1, 4, "TABLE");
      // EXCHANGE and CONVERT move rows between two tables: a copy of one must not touch the other.
      boolean swaps =
          all.find(0, tokens.size(), "EXCHANGE") >= 0 || all.find(0, tokens.size(), "CONVERT") >= 0;
      boolean toCharacters = all.find(0, tokens.size(), "CHARACTER") >= 0;
      return table < 0 || swaps && !toCharacters ? Optional.empty() : all.at(table + 1, false);
    }
    boolean creates = all.is(0, "CREATE");
    int index = creates || all.is(0, "DROP") ? all.find(1, 6, "INDEX") : -1;
    int on = index < 0 ? -1 : all.find(index, index + 6, "ON");
    return on < 0 ? Optional.empty() : all.at(on + 1, creates);
  }

  private Optional<MariadbAlteration> at(int place, boolean creates) {
    int table = is(place, "IF") ? place + 2 : place;
    return table < tokens.size()
        ? Optional.of(new MariadbAlteration(text, tokens, table, creates))
        : Optional.empty();
  }

  private String word(int place) {
    return place >= 0 && place < tokens.size() ? tokens.get(place).in(text) : "";
  }

  private boolean is(int place, String word) {
    return word(place).equalsIgnoreCase(word);
  }

  private int find(int from, int to, String word) {
    for (int i = from; i < Math.min(to, tokens.size()); i++) {
      if (is(i, word)) {
        return i;
      }
    }
    return -1;
  }

  /** The table as the statement writes it. */
  String tableName() {
    return word(table);
  }

  /** Whether rows are read to make an index of them. */
  boolean addsIndex() {
    return createsIndex
        || IntStream.range(table + 1, tokens.size())
            .anyMatch(i -> is(i, "ADD") && INDEXES.contains(word(i + 1).toUpperCase(Locale.ROOT)));
  }

  /** Which token is the name that the table gets; empty if it keeps its own. */
  private OptionalInt newName() {
    int rename = find(table + 1, tokens.size(), "RENAME");
    boolean ofPart = is(rename + 1, "COLUMN") || is(rename + 1, "INDEX") || is(rename + 1, "KEY");
    if (rename < 0 || ofPart) {
      return OptionalInt.empty();
    }
    boolean said = is(rename + 1, "TO") || is(rename + 1, "AS") || is(rename + 1, "=");
    return OptionalInt.of(said ? rename + 2 : rename + 1);
  }

  /** The name that the table gets, as the statement writes it; empty if it keeps its own. */
  Optional<String> renamedTo() {
    OptionalInt place = newName();
    return place.isPresent() ? Optional.of(word(place.getAsInt())) : Optional.empty();
  }

  /**
   * The same statement about another table, done in a way that is demanded.
   *
   * @param name of the other table
   * @param newName that it gets where it gets one
   * @param others the names of other things, by those that the statement writes
   */
  String on(
      String name, String newName, UnaryOperator<String> others, String algorithm, String lock) {
    if (is(0, "DROP")) {
      return "ALTER TABLE "
          + name
          + " DROP INDEX "
          + word(find(1, 6, "ON") - 1)
          + ", "
          + way(algorithm, lock);
    }
    StringBuilder changed = new StringBuilder();
    int from = 0;
    for (int i = 0; i < tokens.size(); i++) {
      Token token = tokens.get(i);
      boolean isName = token.kind() == TokenKind.WORD || token.kind() == TokenKind.QUOTED_NAME;
      String word =
          i == table
              ? name
                  + (createsIndex
                      ? ""
                      : " " + way(algorithm, lock) + (isPartitioning() ? " " : ","))
              : newName().isPresent() && newName().getAsInt() == i
                  ? newName
                  : isName ? others.apply(word(i)) : word(i);
      changed.append(text, from, token.start()).append(word);
      from = token.end();
    }
    changed.append(text.substring(from));
    return createsIndex
        ? changed + " " + way(algorithm, lock).replace(",", "")
        : changed.toString();
  }

  /** {@code PARTITION BY} and {@code REMOVE PARTITIONING} stand behind the changes of a table. */
  private boolean isPartitioning() {
    return is(table + 1, "PARTITION") || is(table + 1, "REMOVE");
  }

  private static String way(String algorithm, String lock) {
    return "ALGORITHM=" + algorithm + ", LOCK=" + lock;
  }
}
