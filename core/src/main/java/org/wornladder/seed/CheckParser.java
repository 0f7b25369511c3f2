package org.wornladder.seed;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import org.wornladder.seed.CheckExpression.All;
import org.wornladder.seed.CheckExpression.Any;
import org.wornladder.seed.CheckExpression.Comparison;
import org.wornladder.seed.CheckExpression.In;
import org.wornladder.seed.CheckExpression.Length;
import org.wornladder.seed.CheckExpression.Literal;
import org.wornladder.seed.CheckExpression.Name;
import org.wornladder.seed.CheckExpression.Null;
import org.wornladder.seed.CheckExpression.Operand;
import org.wornladder.seed.CheckExpression.Unknown;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Token;
import org.wornladder.sql.TokenKind;

/**
 * Reads the usual forms of CHECK constraints, as the engines print them: comparisons, ranges, lists
 * and lengths, joined by AND and OR (SQL, ISO/IEC 9075-2, "search condition").
 */
final class CheckParser {
  private static final Set<String> COMPARISONS = Set.of("=", "<>", "!=", "<", "<=", ">", ">=");
  private static final Set<String> LENGTHS =
      Set.of("LENGTH", "CHAR_LENGTH", "CHARACTER_LENGTH", "OCTET_LENGTH");

  /** Words of more than one part that a type may have, behind its first one. */
  private static final Set<String> TYPE_WORDS =
      Set.of("VARYING", "PRECISION", "WITHOUT", "WITH", "TIME", "ZONE");

  private final String text;
  private final List<Token> tokens;
  private int at;

  private final boolean backslashEscapes;

  private CheckParser(String text, List<Token> tokens, Dialect dialect) {
    this.text = text;
    this.tokens = tokens;
    backslashEscapes = dialect.has(Dialect.Trait.BACKSLASH_ESCAPES);
  }

  /** The form does not fit; the parser goes back and tries another. */
  private static final class NoMatch extends RuntimeException {
    private static final long serialVersionUID = 1;

    NoMatch() {
      super(null, null, false, false);
    }
  }

  /**
   * Reads one.
   *
   * @param check with or without the word CHECK and parentheses
   */
  static CheckExpression read(String check, Dialect dialect) {
    List<Token> tokens =
        Lexer.tokens(check, dialect).stream().filter(token -> token.kind().isMeaning()).toList();
    CheckParser parser = new CheckParser(check, tokens, dialect);
    try {
      parser.accept("CHECK");
      CheckExpression read = parser.any();
      return parser.at == tokens.size() ? read : new Unknown();
    } catch (NoMatch e) {
      return new Unknown();
    }
  }

  private String word() {
    return at < tokens.size() ? tokens.get(at).in(text) : "";
  }

  private boolean is(String word) {
    return word().equalsIgnoreCase(word);
  }

  private boolean accept(String word) {
    if (is(word)) {
      at++;
      return true;
    }
    return false;
  }

  private void expect(String word) {
    if (!accept(word)) {
      throw new NoMatch();
    }
  }

  /** The first form that fits. */
  private <T> Optional<T> attempt(Supplier<T> form) {
    int before = at;
    try {
      return Optional.of(form.get());
    } catch (NoMatch e) {
      at = before;
      return Optional.empty();
    }
  }

  private CheckExpression any() {
    List<CheckExpression> parts = new ArrayList<>(List.of(all()));
    while (accept("OR")) {
      parts.add(all());
    }
    return parts.size() == 1 ? parts.get(0) : new Any(parts);
  }

  private CheckExpression all() {
    List<CheckExpression> parts = new ArrayList<>(List.of(predicate()));
    while (accept("AND")) {
      parts.add(predicate());
    }
    return parts.size() == 1 ? parts.get(0) : new All(parts);
  }

  private CheckExpression predicate() {
    return attempt(this::comparison)
        .or(() -> attempt(this::inParentheses))
        .orElseGet(this::unknown);
  }

  private CheckExpression inParentheses() {
    expect("(");
    CheckExpression inner = any();
    expect(")");
    return inner;
  }

  /** Passes over what cannot be read, to the next AND, OR or closing parenthesis. */
  private CheckExpression unknown() {
    int open = 0;
    int before = at;
    while (at < tokens.size() && !(open == 0 && (is("AND") || is("OR") || is(")")))) {
      open += is("(") ? 1 : is(")") ? -1 : 0;
      at++;
    }
    if (at == before) {
      throw new NoMatch();
    }
    return new Unknown();
  }

  private CheckExpression comparison() {
    Operand left = operand();
    if (accept("IS")) {
      boolean isNot = accept("NOT");
      expect("NULL");
      return new Null(left, isNot);
    }
    if (accept("BETWEEN")) {
      Operand low = operand();
      expect("AND");
      return new All(
          List.of(new Comparison(left, ">=", low), new Comparison(left, "<=", operand())));
    }
    if (accept("IN")) {
      expect("(");
      return new In(left, list(")"));
    }
    String operator = word();
    if (!COMPARISONS.contains(operator)) {
      throw new NoMatch();
    }
    at++;
    if (operator.equals("=") && accept("ANY")) {
      return new In(left, anyOf());
    }
    return new Comparison(left, operator.equals("!=") ? "<>" : operator, operand());
  }

  /** {@code ANY (ARRAY[…])}, with casts and parentheses around the array. */
  private List<Literal> anyOf() {
    int open = 0;
    while (accept("(")) {
      open++;
    }
    expect("ARRAY");
    expect("[");
    List<Literal> list = list("]");
    cast();
    for (; open > 0; open--) {
      expect(")");
      cast();
    }
    return list;
  }

  private List<Literal> list(String end) {
    List<Literal> list = new ArrayList<>();
    do {
      if (!(operand() instanceof Literal literal)) {
        throw new NoMatch();
      }
      list.add(literal);
    } while (accept(","));
    expect(end);
    return list;
  }

  private Operand operand() {
    Operand operand = attempt(this::operandInParentheses).orElseGet(this::simple);
    cast();
    return operand;
  }

  private Operand operandInParentheses() {
    expect("(");
    Operand inner = operand();
    expect(")");
    return inner;
  }

  private Operand simple() {
    if (accept("CAST")) {
      expect("(");
      Operand inner = operand();
      expect("AS");
      type();
      expect(")");
      return inner;
    }
    boolean minus = accept("-");
    if (at >= tokens.size()) {
      throw new NoMatch();
    }
    Token token = tokens.get(at++);
    String word = token.in(text);
    if (token.kind() == TokenKind.NUMBER) {
      return new Literal((minus ? "-" : "") + word);
    }
    if (minus) {
      throw new NoMatch();
    }
    return switch (token.kind()) {
      case STRING -> new Literal(string(word.substring(word.indexOf('\''))));
      case QUOTED_NAME -> new Name(unquoted(word));
      case WORD -> named(word);
      default -> throw new NoMatch();
    };
  }

  private Operand named(String word) {
    String upper = word.toUpperCase(Locale.ROOT);
    if (upper.equals("TRUE") || upper.equals("FALSE")) {
      return new Literal(word.toLowerCase(Locale.ROOT));
    }
    if (upper.equals("DATE") && at < tokens.size() && tokens.get(at).kind() == TokenKind.STRING) {
      return simple();
    }
    if (!is("(")) {
      return new Name(word);
    }
    if (!LENGTHS.contains(upper)) {
      throw new NoMatch();
    }
    expect("(");
    Operand inner = operand();
    expect(")");
    if (inner instanceof Name name) {
      return new Length(name.name());
    }
    throw new NoMatch();
  }

  private String string(String word) {
    String text = unquoted(word);
    return backslashEscapes ? text.replaceAll("\\\\(.)", "$1") : text;
  }

  private static String unquoted(String word) {
    String quote = word.substring(0, 1).equals("[") ? "]" : word.substring(0, 1);
    return word.substring(1, word.length() - 1).replace(quote + quote, quote);
  }

  /** Casts of the form {@code ::type}. */
  private void cast() {
    while (accept("::")) {
      type();
    }
  }

  private void type() {
    at++;
    while (TYPE_WORDS.contains(word().toUpperCase(Locale.ROOT))) {
      at++;
    }
    if (accept("(")) {
      while (!accept(")")) {
        if (at >= tokens.size()) {
          throw new NoMatch();
        }
        at++;
      }
    }
    while (accept("[")) {
      expect("]");
    }
  }
}
