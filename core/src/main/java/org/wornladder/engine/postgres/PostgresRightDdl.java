package org.wornladder.engine.postgres;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Right;

/**
 * Owners and grants as statements (manual, "ALTER … OWNER TO", "GRANT", "REVOKE").
 *
 * @param object an object's kind and name as statements write them
 * @param role a role's name as statements write it
 */
record PostgresRightDdl(Function<ObjectId, String> object, UnaryOperator<String> role) {
  static final String PUBLIC = "PUBLIC";

  /** What everybody may do with an object of a kind that was just made. */
  static List<Right> byDefault(ObjectId id, String label) {
    return switch (id.kind()) {
      case FUNCTION, PROCEDURE, AGGREGATE -> List.of(Right.grant(id, label, PUBLIC, "EXECUTE"));
      case ENUM, DOMAIN -> List.of(Right.grant(id, label, PUBLIC, "USAGE"));
      default -> List.of();
    };
  }

  List<String> give(Right right) {
    if (right.kind() == Kind.OWNER) {
      return List.of(
          "ALTER " + object.apply(right.object()) + " OWNER TO " + role.apply(right.said()));
    }
    List<String> plain = new ArrayList<>();
    List<String> grantable = new ArrayList<>();
    for (String said : right.said().split(", ")) {
      (said.endsWith(Right.GRANTABLE) ? grantable : plain).add(said.replace(Right.GRANTABLE, ""));
    }
    String on = on(right) + " TO " + grantee(right);
    List<String> statements = new ArrayList<>();
    if (!plain.isEmpty()) {
      statements.add("GRANT " + String.join(", ", plain) + on);
    }
    if (!grantable.isEmpty()) {
      statements.add("GRANT " + String.join(", ", grantable) + on + " WITH GRANT OPTION");
    }
    return statements;
  }

  String take(Right right) {
    return "REVOKE ALL" + on(right) + " FROM " + grantee(right);
  }

  private String on(Right right) {
    String named = object.apply(right.object());
    return " ON "
        + switch (right.object().kind()) {
          case VIEW, MATERIALISED_VIEW -> "TABLE " + named.substring(named.indexOf("VIEW ") + 5);
          case AGGREGATE -> "FUNCTION " + named.substring(named.indexOf(' ') + 1);
          default -> named;
        };
  }

  private String grantee(Right right) {
    return right.grantee().equals(PUBLIC) ? PUBLIC : role.apply(right.grantee());
  }
}
