package org.wornladder.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Snapshot;

/**
 * What structures of two engines have in common: tables, columns and whether they may be null, the
 * columns of primary keys and of foreign keys, and the names of views. Names in lower case, since
 * engines fold them differently; types and expressions are left out, since each has its own words.
 */
public final class CommonSubset {
  private static final String NULLABLE = "nullable";

  private CommonSubset() {}

  public static Snapshot of(Snapshot whole) {
    return new Snapshot(elements(whole.elements()), whole.unseen());
  }

  private static List<Element> elements(List<Element> elements) {
    List<Element> kept = new ArrayList<>();
    for (Element element : elements) {
      element(element).ifPresent(kept::add);
    }
    return kept;
  }

  private static Optional<Element> element(Element element) {
    return switch (element.kind()) {
      case TABLE, COLUMN, PRIMARY_KEY, FOREIGN_KEY, VIEW -> {
        Map<String, String> facts = new TreeMap<>();
        element
            .fact(NULLABLE)
            .filter(value -> element.kind() == Kind.COLUMN)
            .ifPresent(value -> facts.put(NULLABLE, value));
        String name = element.name().toLowerCase(Locale.ROOT);
        yield Optional.of(new Element(element.kind(), name, facts, elements(element.parts())));
      }
      default -> Optional.empty();
    };
  }
}
