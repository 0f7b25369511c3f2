package org.wornladder.engine.postgres;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;

/** The objects by the numbers that the catalogue gives them (manual, "Object Identifier Types"). */
final class PostgresNumbers {
  static final String CLASS = "c";
  static final String ROUTINE = "p";
  static final String TYPE = "t";
  static final String OTHER = "o";

  private final Map<String, ObjectId> objects = new HashMap<>();

  /** The catalogue in which objects of a kind have their numbers. */
  static String catalog(Kind kind) {
    return switch (kind) {
      case TABLE, VIEW, MATERIALISED_VIEW, SEQUENCE, COMPOSITE -> CLASS;
      case FUNCTION, PROCEDURE, AGGREGATE -> ROUTINE;
      case ENUM, DOMAIN, RANGE -> TYPE;
      case OTHER -> OTHER;
      default -> OTHER + kind.ordinal();
    };
  }

  void add(String catalog, String number, ObjectId object) {
    objects.put(catalog + number, object);
  }

  /** The object of a number; empty if it is not managed, or the number is empty. */
  Optional<ObjectId> object(String catalog, String number) {
    return Optional.ofNullable(objects.get(catalog + number));
  }
}
