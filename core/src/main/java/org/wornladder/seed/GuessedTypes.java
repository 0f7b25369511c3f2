package org.wornladder.seed;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.DomainType;
import org.wornladder.schema.EnumType;
import org.wornladder.schema.Schema;

/** What the types of columns are made of: enumerations and domains. */
record GuessedTypes(Schema schema) {
  private static final Pattern QUOTED = Pattern.compile("'((?:[^']|'')*)'");

  /** The values of an enumeration; none if it is none. */
  List<String> listed(Column column) {
    if (column.type().toLowerCase(Locale.ROOT).startsWith("enum(")) {
      return quoted(column.type());
    }
    return object(EnumType.class, column.type()).map(EnumType::labels).orElse(List.of());
  }

  private <T extends DatabaseObject> Optional<T> object(Class<T> type, String name) {
    return schema.objects().stream()
        .filter(type::isInstance)
        .map(type::cast)
        .filter(object -> isNamed(object, name))
        .findFirst();
  }

  private static boolean isNamed(DatabaseObject object, String name) {
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
    return object(DomainType.class, column.more("domain").orElse(column.type()))
        .map(
            found ->
                new Domain(
                    found.type(), found.checks().stream().map(Constraint::definition).toList()));
  }
}
