package org.wornladder.change;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.wornladder.change.Ddl.Creation;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.TokenKind;

/**
 * A structure as statements, in an order that runs on an empty database: an object comes after what
 * its own statement speaks of; what may need any other thing (foreign keys, comments) comes last.
 *
 * @param statements without end marks
 * @param leftOut objects that cannot be written
 */
public record CreationScript(List<String> statements, List<Element> leftOut) {
  private static final Comparator<Element> BY_RANK_AND_NAME =
      Comparator.comparingInt((Element element) -> rank(element.kind()))
          .thenComparing(Element::name);

  private static final List<Kind> ORDER =
      List.of(
          Kind.SCHEMA,
          Kind.EXTENSION,
          Kind.ENUM,
          Kind.COMPOSITE,
          Kind.DOMAIN,
          Kind.SEQUENCE,
          Kind.FUNCTION,
          Kind.AGGREGATE,
          Kind.TABLE,
          Kind.INDEX,
          Kind.VIEW,
          Kind.MATERIALISED_VIEW,
          Kind.PROCEDURE,
          Kind.OTHER,
          Kind.POLICY,
          Kind.TRIGGER,
          Kind.EVENT);
  private static final int[] RANKS = ranks();

  public CreationScript {
    statements = List.copyOf(statements);
    leftOut = List.copyOf(leftOut);
  }

  /** The script that makes some objects. */
  public static CreationScript of(Collection<Element> elements, Ddl ddl) {
    Map<Element, Creation> creations = new LinkedHashMap<>();
    List<Element> leftOut = new ArrayList<>();
    for (Element element : elements) {
      if (element.kind().isRight()) {
        continue;
      }
      Creation creation = ddl.create(element.readable());
      leftOut.addAll(element.hidden());
      if (creation.make().isEmpty()) {
        leftOut.add(element);
      } else {
        creations.put(element, creation);
      }
    }
    List<String> statements = new ArrayList<>();
    List<Element> ordered = inOrder(creations, ddl);
    statements.addAll(ddl.preamble(ordered));
    ordered.forEach(element -> statements.addAll(creations.get(element).make()));
    ordered.forEach(element -> statements.addAll(creations.get(element).then()));
    ordered.forEach(element -> statements.addAll(creations.get(element).last()));
    return new CreationScript(statements, leftOut);
  }

  /** Objects in the order in which they would be made; those that cannot be written come last. */
  static List<Element> ordered(Collection<Element> elements, Ddl ddl) {
    Map<Element, Creation> creations = new LinkedHashMap<>();
    elements.forEach(element -> creations.put(element, ddl.create(element)));
    return inOrder(creations, ddl);
  }

  /** Where a kind stands among others, if nothing else decides. */
  static int rank(Kind kind) {
    return RANKS[kind.ordinal()];
  }

  private static int[] ranks() {
    int[] ranks = new int[Kind.values().length];
    for (Kind kind : Kind.values()) {
      int rank = ORDER.indexOf(kind);
      ranks[kind.ordinal()] = rank < 0 ? ORDER.size() : rank;
    }
    return ranks;
  }

  /** By rank, but for what a statement speaks of; a ring is entered where the rank is lowest. */
  private static List<Element> inOrder(Map<Element, Creation> creations, Ddl ddl) {
    List<Element> waiting = new ArrayList<>(creations.keySet());
    waiting.sort((a, b) -> Integer.compare(rank(a.kind()), rank(b.kind())));
    Map<Element, Set<Element>> needs = needs(creations, ddl);
    List<Element> ordered = new ArrayList<>();
    Set<Element> placed = new HashSet<>();
    for (Element element : waiting) {
      place(element, needs, placed, new HashSet<>(), ordered);
    }
    return ordered;
  }

  private static void place(
      Element element,
      Map<Element, Set<Element>> needs,
      Set<Element> placed,
      Set<Element> onTheWay,
      List<Element> ordered) {
    if (placed.contains(element) || !onTheWay.add(element)) {
      return;
    }
    for (Element needed : needs.get(element)) {
      place(needed, needs, placed, onTheWay, ordered);
    }
    if (placed.add(element)) {
      ordered.add(element);
    }
  }

  private static Map<Element, Set<Element>> needs(Map<Element, Creation> creations, Ddl ddl) {
    Map<String, Set<Element>> byName = new HashMap<>();
    for (Element element : creations.keySet()) {
      for (String name : ddl.names(element)) {
        byName.computeIfAbsent(folded(name), key -> new HashSet<>()).add(element);
      }
    }
    Map<Element, Set<Element>> needs = new HashMap<>();
    creations.forEach(
        (element, creation) -> {
          Set<Element> needed = new HashSet<>();
          for (String statement : creation.make()) {
            mentions(element, statement, ddl, byName, needed);
          }
          needed.remove(element);
          needs.put(element, sorted(needed));
        });
    return needs;
  }

  private static Set<Element> sorted(Set<Element> elements) {
    List<Element> sorted = new ArrayList<>(elements);
    sorted.sort(BY_RANK_AND_NAME);
    return new LinkedHashSet<>(sorted);
  }

  /** The objects whose names a statement holds; of routines those alone that it calls. */
  private static void mentions(
      Element element,
      String statement,
      Ddl ddl,
      Map<String, Set<Element>> byName,
      Set<Element> found) {
    List<String> words = words(statement, ddl);
    boolean callsByName = element.kind() == Kind.AGGREGATE;
    for (int i = 0; i < words.size(); i++) {
      boolean called = callsByName || (i + 1 < words.size() && words.get(i + 1).equals("("));
      for (Element named : byName.getOrDefault(folded(words.get(i)), Set.of())) {
        if (called || !isRoutine(named.kind())) {
          found.add(named);
        }
      }
    }
  }

  /** The words of a statement, names without quotes and schema; none if it cannot be read. */
  static List<String> words(String statement, Ddl ddl) {
    List<String> words = new ArrayList<>();
    List<Boolean> strings = new ArrayList<>();
    Lexer lexer = new Lexer(statement, ddl.dialect());
    try {
      while (lexer.advance()) {
        if (lexer.kind().isMeaning()) {
          words.add(plain(lexer.kind(), statement.substring(lexer.start(), lexer.end())));
          strings.add(lexer.kind() == TokenKind.STRING);
        }
      }
      for (int i = 0; i < words.size(); i++) {
        if (strings.get(i) && !isNameByCast(words, i)) {
          words.set(i, "");
        }
      }
    } catch (SqlTextException e) {
      // What cannot be read says of no needs; the rank decides.
      return List.of();
    }
    return words;
  }

  /** Whether a string is cast to what names objects, as {@code 'bin_id_seq'::regclass} is. */
  private static boolean isNameByCast(List<String> words, int at) {
    return at + 2 < words.size()
        && words.get(at + 1).equals("::")
        && words.get(at + 2).startsWith("reg");
  }

  private static boolean isRoutine(Kind kind) {
    return kind == Kind.FUNCTION || kind == Kind.AGGREGATE || kind == Kind.PROCEDURE;
  }

  /** A name without quotes and schema; what is in a string may be one too. */
  private static String plain(TokenKind kind, String text) {
    if (kind == TokenKind.STRING || kind == TokenKind.QUOTED_NAME) {
      String inner = text.length() < 2 ? text : text.substring(1, text.length() - 1);
      if (kind == TokenKind.QUOTED_NAME) {
        String quote = text.substring(0, 1);
        return inner.replace(quote + quote, quote);
      }
      return inner.substring(inner.lastIndexOf('.') + 1).replace("\"", "");
    }
    return text;
  }

  static String folded(String name) {
    return name.toLowerCase(Locale.ROOT);
  }
}
