package org.wornladder.engine;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Fingerprint;

/**
 * Values that a script for a database's own client does not hold, but takes from the client's
 * variables. In the statements that were tried, each value is a marker.
 */
public final class ClientVariables {
  private static final int MARKER_LENGTH = 24;

  private final Dialect dialect;
  private final VariableSyntax syntax;
  private final Map<String, String> names = new LinkedHashMap<>();
  private final Map<String, String> values = new LinkedHashMap<>();
  private final Set<String> used = new TreeSet<>();

  /** A value stands where the client cannot put one. */
  public static final class OutOfReach extends Exception {
    private static final long serialVersionUID = 1L;

    public OutOfReach(String message) {
      super(message);
    }

    /** It is a part of something that has more. */
    public static OutOfReach within() {
      return new OutOfReach("a variable's value stands inside of a text or a name that has more");
    }
  }

  /** Lines for the client, which may be none, and the statement behind them. */
  public record Put(String ahead, String statement) {}

  /** A part of a text: the name of a variable, or what stands between two. */
  public record Piece(String text, boolean variable) {}

  public ClientVariables(Engine engine) {
    dialect = engine.dialect();
    syntax = engine.clientVariables();
  }

  public Dialect dialect() {
    return dialect;
  }

  /** The marker that stands for a value while the script is tried. */
  public String marker(String name, String value) {
    String variable = name.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9_]", "_");
    // A word that no other text holds by chance, and that may be a name as well.
    String marker =
        "v" + new Fingerprint().line("variable").line(name).hex().substring(0, MARKER_LENGTH);
    // Two values whose names differ only by marks or letter case are two variables.
    boolean taken = names.containsValue(variable);
    names.put(marker, taken ? variable + "_" + (names.size() + 1) : variable);
    values.put(marker, value);
    return marker;
  }

  /** A part of a definition as it will be where the values are put in. */
  public String revealed(String definition) {
    String text = definition;
    for (Map.Entry<String, String> one : values.entrySet()) {
      text =
          text.equals(one.getKey())
              ? one.getValue()
              : text.replace(one.getKey(), spelled(one.getValue()));
    }
    return text;
  }

  /** A value as the database spells it between quotes. */
  private String spelled(String value) {
    String escaped =
        dialect.has(Dialect.Trait.BACKSLASH_ESCAPES) ? value.replace("\\", "\\\\") : value;
    return escaped.replace("'", "''");
  }

  /** The variables that the script takes, in order. */
  public List<String> used() {
    return List.copyOf(used);
  }

  /** Whether a text holds the marker of a value. */
  public boolean isHeldBy(String text) {
    return names.keySet().stream().anyMatch(text::contains);
  }

  /**
   * A statement that takes its values from the client.
   *
   * @param data rows behind it, which no client looks at
   * @throws OutOfReach if a value stands where the client puts none
   */
  public Put put(String statement, String data) throws OutOfReach {
    if (isHeldBy(data)) {
      throw new OutOfReach("a variable's value stands among rows of COPY");
    }
    return isHeldBy(statement) ? syntax.put(statement, this) : new Put("", statement);
  }

  /** Lines with which a script refuses to begin while one of its variables has no value. */
  public String demands() {
    StringBuilder text = new StringBuilder();
    used.forEach(name -> text.append(syntax.demand(name)));
    return text.toString();
  }

  /** The variable whose marker a text is; empty if it is none. */
  public Optional<String> variable(String text) {
    Optional<String> variable = Optional.ofNullable(names.get(text));
    variable.ifPresent(used::add);
    return variable;
  }

  /** A comment without markers. */
  public String masked(String comment) {
    String text = comment;
    for (String marker : names.keySet()) {
      text = text.replace(marker, "***");
    }
    return text;
  }

  /** What stands between quotes, doubled ones single; a text without quotes as it is. */
  public static String unquoted(String part) {
    char quote = part.charAt(0);
    if (quote != '\'' && quote != '"' && quote != '`') {
      return part;
    }
    String twice = String.valueOf(quote).repeat(2);
    return part.substring(1, part.length() - 1).replace(twice, String.valueOf(quote));
  }

  /** A text taken apart at its markers. */
  public List<Piece> pieces(String text) {
    List<Piece> pieces = new ArrayList<>();
    int from = 0;
    while (from < text.length()) {
      int at = text.length();
      String next = "";
      for (String marker : names.keySet()) {
        int found = text.indexOf(marker, from);
        if (found >= 0 && found < at) {
          at = found;
          next = marker;
        }
      }
      if (at > from) {
        pieces.add(new Piece(text.substring(from, at), false));
      }
      if (!next.isEmpty()) {
        used.add(names.get(next));
        pieces.add(new Piece(names.get(next), true));
      }
      from = at + next.length();
    }
    return pieces;
  }
}
