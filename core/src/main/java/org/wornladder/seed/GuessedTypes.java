package org.wornladder.seed;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.schema.Column;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Schema;
import org.wornladder.schema.SchemaObject;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Token;
import org.wornladder.sql.TokenKind;

/** What the types of columns are made of: enumerations and domains. */
record GuessedTypes(Schema schema, Dialect dialect) {
  private static final Pattern QUOTED = Pattern.compile("'((?:[^']|'')*)'");

  /** What ends the type in the definition of a domain. */
  private static final Set<String> END =
      Set.of("CHECK", "CONSTRAINT", "DEFAULT", "NOT", "NULL", "COLLATE", "ON");

  /** The values of an enumeration; none if it is none. */
  List<String> listed(Column column) {
    if (column.type().toLowerCase(Locale.ROOT).startsWith("enum(")) {
      return quoted(column.type());
    }
    return object(Kind.ENUM, column.type())
        .map(found -> quoted(found.definition()))
        .orElse(List.of());
  }

  private Optional<SchemaObject> object(Kind kind, String name) {
    return schema.objects().stream()
        .filter(object -> object.kind() == kind && isNamed(object, name))
        .findFirst();
  }

  private static boolean isNamed(SchemaObject object, String name) {
    return object.name().equals(name) || object.name().equals(name.replace("\"", ""));
  }

  private static List<String> quoted(String text) {
    List<String> values = new ArrayList<>();
    Matcher matcher = QUOTED.matcher(text);
    while (matcher.find()) {
      values.add(matcher.group(1).replace("''", "'"));
    }
    return values;
  }

  /** A domain's own type, and the constraints of its values. */
  record Domain(String type, List<String> checks) {}

  /** The domain that a column has as its type; empty if it has none. */
  Optional<Domain> domain(Column column) {
    return object(Kind.DOMAIN, column.more("domain").orElse(column.type()))
        .map(found -> domain(found.definition()));
  }

  private Domain domain(String definition) {
    List<Token> tokens = Lexer.tokens(definition, dialect);
    int at = 0;
    while (at < tokens.size() && !word(definition, tokens, at).equals("AS")) {
      at++;
    }
    int start = Math.min(at + 1, tokens.size());
    int end = start;
    while (end < tokens.size()
        && !END.contains(word(definition, tokens, end))
        && tokens.get(end).kind() != TokenKind.END) {
      end++;
    }
    StringBuilder type = new StringBuilder();
    tokens.subList(start, end).forEach(token -> type.append(token.in(definition)));
    List<String> checks = new ArrayList<>();
    for (int i = end; i < tokens.size(); i++) {
      if (word(definition, tokens, i).equals("CHECK")) {
        checks.add(group(definition, tokens, i + 1));
      }
    }
    return new Domain(type.toString().strip(), checks);
  }

  private static String word(String text, List<Token> tokens, int at) {
    return tokens.get(at).in(text).toUpperCase(Locale.ROOT);
  }

  /** From an opening parenthesis to its closing one. */
  private static String group(String text, List<Token> tokens, int from) {
    StringBuilder group = new StringBuilder();
    int open = 0;
    for (Token token : tokens.subList(from, tokens.size())) {
      String word = token.in(text);
      open += word.equals("(") ? 1 : word.equals(")") ? -1 : 0;
      group.append(word);
      if (open == 0 && !word.isBlank()) {
        break;
      }
    }
    return group.toString();
  }
}
