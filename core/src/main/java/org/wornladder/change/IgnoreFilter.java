package org.wornladder.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import org.wornladder.schema.Described;
import org.wornladder.schema.Facts;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Table;

/**
 * The objects that a project leaves to others: patterns such as {@code table:legacy_*} or {@code
 * column:grower.fax}, a kind and a name in which a star means any letters. What is part of an
 * ignored table is ignored with it; {@code partition:*} means the partitions of tables.
 */
public final class IgnoreFilter {
  private static final String PARTITION = "partition";

  private final List<Rule> rules = new ArrayList<>();

  private record Rule(String kind, Pattern name) {}

  public IgnoreFilter(List<String> patterns) {
    for (String pattern : patterns) {
      int colon = pattern.indexOf(':');
      String kind = pattern.substring(0, Math.max(0, colon)).strip().toLowerCase(Locale.ROOT);
      rules.add(new Rule(kind, glob(pattern.substring(colon + 1).strip())));
    }
  }

  /** A pattern in which a star means any letters. */
  public static Pattern glob(String text) {
    List<String> parts = new ArrayList<>();
    for (String part : text.split("\\*", -1)) {
      parts.add(part.isEmpty() ? "" : Pattern.quote(part));
    }
    return Pattern.compile(String.join(".*", parts));
  }

  /** The differences that count. */
  public List<Difference> without(List<Difference> differences) {
    return differences.stream().filter(difference -> !ignores(difference)).toList();
  }

  /** The differences that the patterns name. */
  public List<Difference> ignored(List<Difference> differences) {
    return differences.stream().filter(this::ignores).toList();
  }

  private boolean ignores(Difference difference) {
    for (Rule rule : rules) {
      if (ignores(rule, difference)) {
        return true;
      }
    }
    return false;
  }

  private static boolean ignores(Rule rule, Difference difference) {
    Described either = difference.either();
    if (rule.kind().equals(PARTITION)) {
      return either.fact(Table.PARTITION_BOUND).isPresent()
          && rule.name().matcher(difference.name()).matches();
    }
    if (rule.kind().equals(difference.kind().label())
        && rule.name().matcher(difference.fullName()).matches()) {
      return true;
    }
    String table =
        difference.table().isEmpty() ? either.fact(Facts.TABLE).orElse("") : difference.table();
    return rule.kind().equals(Kind.TABLE.label())
        && !table.isEmpty()
        && rule.name().matcher(table).matches();
  }
}
