package org.wornladder.engine;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Dependency;
import org.wornladder.schema.Facts;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.Table;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Token;
import org.wornladder.sql.TokenKind;

/**
 * What a statement depends on, for engines that keep no record of it: the names at places where a
 * table, a routine or a sequence can stand, resolved against what is there. A string, an alias, a
 * column of the same name is none.
 */
public final class TextDependencies {
  /** Behind these a table or view is named (ISO/IEC 9075-2, "from clause", "joined table"). */
  private static final Set<String> BEFORE_TABLES = Set.of("FROM", "JOIN", "INTO", "UPDATE");

  /** These end the list of tables that a comma goes on with. */
  private static final Set<String> BEHIND_TABLES =
      Set.of(
          "WHERE",
          "GROUP",
          "HAVING",
          "ORDER",
          "LIMIT",
          "UNION",
          "INTERSECT",
          "EXCEPT",
          "SELECT",
          "WINDOW",
          "SET",
          "VALUES",
          "ON",
          "USING",
          "END",
          "FETCH",
          "OFFSET",
          "FOR");

  private static final Set<String> BETWEEN =
      Set.of("LATERAL", "ONLY", "IGNORE", "OR", "REPLACE", "ROLLBACK", "ABORT", "FAIL", "TABLE");

  private static final Set<String> NO_ALIAS =
      Set.of(
          "LEFT", "RIGHT", "INNER", "OUTER", "CROSS", "NATURAL", "FULL", "STRAIGHT_JOIN", "JOIN");

  private final Dialect dialect;
  private final Map<String, DatabaseObject> relations = new HashMap<>();
  private final Map<String, ObjectId> routines = new HashMap<>();
  private final Map<String, ObjectId> sequences = new HashMap<>();
  private final Map<String, ObjectId> triggers = new HashMap<>();

  /**
   * @param objects what there is
   */
  public TextDependencies(Dialect dialect, Collection<? extends DatabaseObject> objects) {
    this.dialect = dialect;
    for (DatabaseObject object : objects) {
      String name = folded(object.id().name());
      switch (object.kind()) {
        case TABLE, VIEW, MATERIALISED_VIEW -> relations.put(name, object);
        case FUNCTION, PROCEDURE, AGGREGATE -> routines.put(name, object.id());
        case SEQUENCE -> sequences.put(name, object.id());
        case TRIGGER -> triggers.put(name, object.id());
        default -> {
          // Nothing that a statement names at such a place.
        }
      }
    }
  }

  private static String folded(String name) {
    return name.toLowerCase(Locale.ROOT);
  }

  /** The same objects, each with what its definition needs. */
  public List<DatabaseObject> resolved(List<? extends DatabaseObject> objects) {
    List<DatabaseObject> resolved = new ArrayList<>();
    for (DatabaseObject object : objects) {
      String definition = object.fact(Facts.DEFINITION).orElse("");
      boolean runs = object.kind().isView() || object.kind() == Kind.TRIGGER;
      resolved.add(
          runs && !definition.isEmpty()
              ? object.dependingOn(
                  without(object.id(), of(definition, object.owner().map(ObjectId::name))))
              : object);
    }
    return resolved;
  }

  /** Tables with what their columns' and constraints' expressions need. */
  public List<Table> inTables(List<Table> tables) {
    return tables.stream()
        .map(
            table ->
                table.with(
                    table.columns().stream()
                        .map(column -> column.dependingOn(ofColumn(table, column)))
                        .toList(),
                    table.constraints().stream()
                        .map(one -> one.dependingOn(ofExpression(one.definition())))
                        .toList()))
        .toList();
  }

  private List<Dependency> ofColumn(Table table, Column column) {
    List<Dependency> needed = new ArrayList<>(column.dependsOn());
    column.defaultValue().ifPresent(value -> needed.addAll(ofExpression(value)));
    column
        .more(Column.GENERATED)
        .ifPresent(value -> needed.addAll(ofColumns(value, table, column.name())));
    return needed;
  }

  /** The routines and sequences that an expression calls. */
  private List<Dependency> ofExpression(String expression) {
    return new Reading(expression, Optional.empty()).calls();
  }

  /** What an expression over a table's columns calls, and which columns it names. */
  private List<Dependency> ofColumns(String expression, Table table, String own) {
    Reading reading = new Reading(expression, Optional.empty());
    reading.named.put(folded(table.id().name()), table);
    reading.columns();
    return reading.calls().stream().filter(one -> !one.column().equals(own)).toList();
  }

  private static List<Dependency> without(ObjectId own, List<Dependency> all) {
    return all.stream().filter(one -> !one.target().equals(own)).toList();
  }

  /**
   * What a statement names.
   *
   * @param table the table of whose rows OLD and NEW are, for a trigger's
   */
  public List<Dependency> of(String statement, Optional<String> table) {
    return new Reading(statement, table).dependencies();
  }

  /** One statement as it is read. */
  private final class Reading {
    private final String text;
    private final List<Token> tokens = new ArrayList<>();
    private final Set<String> common = new HashSet<>();
    private final Map<String, DatabaseObject> named = new LinkedHashMap<>();
    private final Set<Dependency> found = new LinkedHashSet<>();

    /** The places of tokens that are names of tables, and aliases of them. */
    private final Set<Integer> tables = new HashSet<>();

    private Reading(String text, Optional<String> table) {
      this.text = text;
      try {
        for (Token token : Lexer.tokens(text, dialect)) {
          if (token.kind().isMeaning()) {
            tokens.add(token);
          }
        }
      } catch (SqlTextException e) {
        // The engine took it, and it names nothing that could be read.
        tokens.clear();
      }
      table
          .map(name -> relations.get(folded(name)))
          .ifPresent(
              owner -> {
                named.put("new", owner);
                named.put("old", owner);
              });
    }

    private List<Dependency> dependencies() {
      commonTables();
      tables();
      columns();
      calls();
      return List.copyOf(found);
    }

    private boolean isName(int at) {
      if (at < 0 || at >= tokens.size()) {
        return false;
      }
      TokenKind kind = tokens.get(at).kind();
      return kind == TokenKind.WORD
          || kind == TokenKind.QUOTED_NAME
          || (kind == TokenKind.STRING && tokens.get(at).in(text).startsWith("\""));
    }

    private String word(int at) {
      return at >= 0 && at < tokens.size() ? tokens.get(at).in(text) : "";
    }

    private String upper(int at) {
      boolean plain = at >= 0 && at < tokens.size() && tokens.get(at).kind() == TokenKind.WORD;
      return plain ? word(at).toUpperCase(Locale.ROOT) : word(at);
    }

    /** A name without its quotes, folded. */
    private String name(int at) {
      String written = word(at);
      if (tokens.get(at).kind() == TokenKind.WORD) {
        return folded(written);
      }
      String quote = written.substring(0, 1);
      String inner = written.substring(1, written.length() - 1);
      return folded(quote.equals("[") ? inner : inner.replace(quote + quote, quote));
    }

    /** The names that WITH gives to queries of this statement. */
    private void commonTables() {
      for (int i = 0; i + 1 < tokens.size(); i++) {
        if (isName(i) && upper(i + 1).equals("AS") && word(i + 2).equals("(")) {
          common.add(name(i));
        } else if (isName(i) && word(i + 1).equals("(") && isNamedQuery(i)) {
          common.add(name(i));
        }
      }
    }

    /** Whether {@code name (columns) AS (} stands at a place. */
    private boolean isNamedQuery(int at) {
      int end = at + 1;
      while (end < tokens.size() && !word(end).equals(")")) {
        end++;
      }
      boolean introduced =
          upper(at - 1).equals("WITH")
              || upper(at - 1).equals("RECURSIVE")
              || word(at - 1).equals(",");
      return introduced && upper(end + 1).equals("AS") && word(end + 2).equals("(");
    }

    /** Names behind FROM and the like, and behind the commas that go on with such a list. */
    private void tables() {
      Deque<Boolean> lists = new ArrayDeque<>(List.of(false));
      for (int i = 0; i < tokens.size(); i++) {
        String word = upper(i);
        if (word.equals("(")) {
          boolean nested = lists.peek() && isTablePlace(i);
          lists.push(nested);
          if (nested) {
            i = table(i + 1);
          }
        } else if (word.equals(")")) {
          if (lists.size() > 1) {
            lists.pop();
          }
        } else if (BEFORE_TABLES.contains(word)) {
          lists.pop();
          lists.push(true);
          i = table(i + 1);
        } else if (BEHIND_TABLES.contains(word)) {
          lists.pop();
          lists.push(false);
        } else if (word.equals(",") && lists.peek()) {
          i = table(i + 1);
        }
      }
    }

    /** Whether a parenthesis opens where a table can stand. */
    private boolean isTablePlace(int at) {
      String before = upper(at - 1);
      return BEFORE_TABLES.contains(before) || before.equals(",") || before.equals("(");
    }

    /** Takes the table at a place, if one is named there; returns the place of its last token. */
    private int table(int at) {
      int first = at;
      while (BETWEEN.contains(upper(first))) {
        first++;
      }
      if (!isName(first) || upper(first).equals("SELECT")) {
        return at - 1;
      }
      int last = first;
      while (word(last + 1).equals(".") && isName(last + 2)) {
        last += 2;
      }
      String name = name(last);
      DatabaseObject relation = relations.get(name);
      boolean calls = word(last + 1).equals("(") && !upper(at - 1).equals("INTO");
      tables.addAll(IntStream.rangeClosed(first, last).boxed().toList());
      if (relation == null || calls || (last == first && common.contains(name))) {
        return last;
      }
      found.add(Dependency.inText(relation.id(), ""));
      named.put(name, relation);
      int alias = upper(last + 1).equals("AS") ? last + 2 : last + 1;
      boolean hasAlias =
          isName(alias)
              && !BEHIND_TABLES.contains(upper(alias))
              && !NO_ALIAS.contains(upper(alias));
      if (hasAlias) {
        named.put(name(alias), relation);
        tables.add(alias);
        return alias;
      }
      return last;
    }

    /**
     * Columns behind a table's name or alias, and alone where only one table is named with such.
     */
    private void columns() {
      for (int i = 0; i < tokens.size(); i++) {
        if (!isName(i) || tables.contains(i)) {
          continue;
        }
        boolean qualified = word(i - 1).equals(".");
        if (qualified && isName(i - 2) && named.containsKey(name(i - 2))) {
          column(named.get(name(i - 2)), name(i));
        } else if (!qualified
            && !word(i + 1).equals("(")
            && !word(i + 1).equals(".")
            && !upper(i - 1).equals("AS")) {
          String column = name(i);
          named.values().forEach(relation -> column(relation, column));
        }
      }
    }

    private void column(DatabaseObject relation, String column) {
      if (!(relation instanceof Table table)) {
        found.add(Dependency.inText(relation.id(), ""));
        return;
      }
      table
          .column(column)
          .map(Part::name)
          .ifPresent(name -> found.add(Dependency.inText(table.id(), name)));
    }

    /** Routines that are called, and sequences that are asked for a value. */
    private List<Dependency> calls() {
      for (int i = 0; i < tokens.size(); i++) {
        if (isName(i) && word(i + 1).equals("(") && routines.containsKey(name(i))) {
          found.add(Dependency.inText(routines.get(name(i)), ""));
        } else if (isName(i) && sequences.containsKey(name(i)) && isSequencePlace(i)) {
          found.add(Dependency.inText(sequences.get(name(i)), ""));
        } else if (isName(i) && triggers.containsKey(name(i)) && isBehindTrigger(i)) {
          found.add(Dependency.inText(triggers.get(name(i)), ""));
        }
      }
      return List.copyOf(found);
    }

    /** Whether a trigger is named that another one runs behind or before. */
    private boolean isBehindTrigger(int at) {
      return upper(at - 1).equals("FOLLOWS") || upper(at - 1).equals("PRECEDES");
    }

    private boolean isSequencePlace(int at) {
      int first = at;
      while (word(first - 1).equals(".")) {
        first -= 2;
      }
      boolean called = word(first - 1).equals("(") && upper(first - 2).endsWith("VAL");
      return called || (upper(first - 1).equals("FOR") && upper(first - 2).equals("VALUE"));
    }
  }
}
