package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.schema.SchemaObject;

/**
 * Whose objects are, and who else may do what with them (manual, 5.8 "Privileges"). What the owner
 * may do is not listed: it is the owner's.
 */
final class PostgresRights {
  /** What stands between an object and a role. */
  private static final String TO = " to ";

  /** A name, the table it belongs to, and who owns it or else what may be done with it. */
  static final String QUERY =
      """
      WITH object AS (SELECT CASE c.relkind WHEN 'v' THEN 'view' WHEN 'm' THEN 'materialised view'
            WHEN 'S' THEN 'sequence' ELSE 'table' END AS kind, %name(c.relname) AS name,
          c.relowner AS owner, c.relacl AS acl
        FROM pg_catalog.pg_class c JOIN %schemas ON n.oid = c.relnamespace
       WHERE c.relkind IN ('r', 'p', 'v', 'm', 'S') AND %own(pg_class, c)
      UNION ALL SELECT 'routine', %name(p.proname) || '(' ||
          pg_catalog.pg_get_function_identity_arguments(p.oid) || ')', p.proowner, p.proacl
        FROM pg_catalog.pg_proc p JOIN %schemas ON n.oid = p.pronamespace
       WHERE %own(pg_proc, p)
      UNION ALL SELECT 'type', %name(t.typname), t.typowner, t.typacl
        FROM pg_catalog.pg_type t JOIN %schemas ON n.oid = t.typnamespace
       WHERE t.typtype IN ('e', 'd') AND %own(pg_type, t)
      UNION ALL SELECT 'schema', n.nspname, n.nspowner, n.nspacl
        FROM pg_catalog.pg_namespace n WHERE n.nspname IN (%all))
      SELECT object.kind || ' ' || object.name, CASE WHEN object.kind = 'table' THEN object.name ELSE ''
          END, pg_catalog.pg_get_userbyid(object.owner), NULL FROM object
      UNION ALL SELECT concat(object.kind, ' ', object.name, ' to ', CASE WHEN a.grantee = 0
            THEN 'PUBLIC' ELSE pg_catalog.pg_get_userbyid(a.grantee) END), CASE WHEN
            object.kind = 'table' THEN object.name ELSE '' END, NULL, string_agg(a.privilege_type ||
            CASE WHEN a.is_grantable THEN ' (may grant it on)' ELSE '' END, ', '
            ORDER BY a.privilege_type)
        FROM object CROSS JOIN LATERAL pg_catalog.aclexplode(object.acl) a
       WHERE object.acl IS NOT NULL AND a.grantee <> object.owner
       GROUP BY object.kind, object.name, a.grantee""";

  private static final String OWNER = "owner";
  private static final String RIGHTS = "rights";
  private static final String GRANTABLE = " (may grant it on)";

  private PostgresRights() {}

  /** Adds what {@link #QUERY} found: owners, then grants, each by name. */
  static void read(ResultSet rows, List<SchemaObject> found) throws SQLException {
    List<SchemaObject> owners = new ArrayList<>();
    List<SchemaObject> grants = new ArrayList<>();
    while (rows.next()) {
      String owner = rows.getString(3);
      if (owner != null) {
        owners.add(right(Kind.OWNER, rows, Map.of(OWNER, owner)));
      } else {
        grants.add(right(Kind.GRANT, rows, Map.of(RIGHTS, rows.getString(4))));
      }
    }
    for (List<SchemaObject> sorted : List.of(owners, grants)) {
      sorted.sort((one, other) -> one.name().compareTo(other.name()));
      found.addAll(sorted);
    }
  }

  private static SchemaObject right(Kind kind, ResultSet row, Map<String, String> fact)
      throws SQLException {
    return new SchemaObject(kind, row.getString(1), row.getString(2), "", fact);
  }

  /**
   * The statements that give a view the owner and the grants again that it had (manual, "GRANT").
   *
   * @param object its kind and name as statements write them
   * @param standing what was there before
   * @param name writes a role's name
   */
  static List<String> again(
      Element view, String object, List<Element> standing, UnaryOperator<String> name) {
    String own = view.kind().label() + " " + view.name();
    List<String> statements = new ArrayList<>();
    for (Element right : standing) {
      if (right.kind() == Kind.OWNER && right.name().equals(own)) {
        right
            .fact(OWNER)
            .ifPresent(role -> statements.add("ALTER " + object + " OWNER TO " + name.apply(role)));
      } else if (right.kind() == Kind.GRANT && isOf(view, right, standing)) {
        String role = right.name().substring((own + TO).length());
        String to = " TO " + (role.equals("PUBLIC") ? role : name.apply(role));
        grants(right.fact(RIGHTS).orElse(""), object, to, statements);
      }
    }
    return statements;
  }

  /**
   * Whether a grant is one of a view, and not of another whose name goes on with the same words.
   */
  private static boolean isOf(Element view, Element grant, List<Element> standing) {
    String start = view.kind().label() + " ";
    boolean fits = grant.name().startsWith(start + view.name() + TO);
    return fits
        && standing.stream()
            .filter(other -> other.kind() == view.kind())
            .filter(other -> other.name().length() > view.name().length())
            .noneMatch(other -> grant.name().startsWith(start + other.name() + TO));
  }

  private static void grants(String rights, String object, String to, List<String> statements) {
    List<String> plain = new ArrayList<>();
    List<String> grantable = new ArrayList<>();
    for (String right : rights.split(", ")) {
      (right.endsWith(GRANTABLE) ? grantable : plain).add(right.replace(GRANTABLE, ""));
    }
    String on = " ON " + object.substring(object.indexOf("VIEW ") + "VIEW ".length()) + to;
    if (!plain.isEmpty()) {
      statements.add("GRANT " + String.join(", ", plain) + on);
    }
    if (!grantable.isEmpty()) {
      statements.add("GRANT " + String.join(", ", grantable) + on + " WITH GRANT OPTION");
    }
  }
}
