package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Dependency;
import org.wornladder.schema.DomainType;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.schema.View;

/**
 * What depends on what, down to columns (manual, "pg_depend"). What the catalogue keeps of a view's
 * rule or a column's default is that of the view or column here; what is part of an object is no
 * dependency. Bodies that are strings are not tracked, and need nothing to be made.
 */
final class PostgresDependencies {
  /**
   * The catalogue and number of the object that needs another one, the kind and name of the part of
   * it that does; the catalogue and number of that other one, and its column. An array is its
   * element's type, a row's type is its table.
   */
  static final String QUERY =
      """
      WITH d AS (SELECT d.classid, d.objid, d.objsubid,
            CASE WHEN d.refclassid = 'pg_catalog.pg_class'::pg_catalog.regclass THEN 'c'
              WHEN d.refclassid = 'pg_catalog.pg_proc'::pg_catalog.regclass THEN 'p'
              WHEN d.refclassid = 'pg_catalog.pg_operator'::pg_catalog.regclass THEN 'o'
              WHEN coalesce(e.typrelid, y.typrelid) <> 0 THEN 'c' ELSE 't' END AS catalogue,
            CASE WHEN d.refclassid <> 'pg_catalog.pg_type'::pg_catalog.regclass THEN d.refobjid
              WHEN coalesce(e.typrelid, y.typrelid) <> 0 THEN coalesce(e.typrelid, y.typrelid)
              ELSE coalesce(e.oid, d.refobjid) END AS needed, a.attname AS "column",
            d.refobjsubid
          FROM pg_catalog.pg_depend d
          LEFT JOIN pg_catalog.pg_type y ON y.oid = d.refobjid
            AND d.refclassid = 'pg_catalog.pg_type'::pg_catalog.regclass
          LEFT JOIN pg_catalog.pg_type e ON e.oid = y.typelem AND y.typcategory = 'A'
          LEFT JOIN pg_catalog.pg_attribute a ON a.attrelid = d.refobjid
            AND a.attnum = d.refobjsubid AND d.refobjsubid > 0
            AND d.refclassid = 'pg_catalog.pg_class'::pg_catalog.regclass
         WHERE d.deptype IN ('n', 'a') AND d.objid >= 16384 AND d.refobjid >= 16384
           AND d.refclassid IN ('pg_catalog.pg_class'::pg_catalog.regclass,
             'pg_catalog.pg_proc'::pg_catalog.regclass, 'pg_catalog.pg_type'::pg_catalog.regclass,
             'pg_catalog.pg_operator'::pg_catalog.regclass)
           AND d.classid <> 'pg_catalog.pg_constraint'::pg_catalog.regclass)
      SELECT DISTINCT * FROM (
        SELECT 'c', r.ev_class, '', '', d.catalogue, d.needed, d."column"
          FROM d JOIN pg_catalog.pg_rewrite r ON r.oid = d.objid
           AND d.classid = 'pg_catalog.pg_rewrite'::pg_catalog.regclass
         WHERE r.rulename = '_RETURN' AND d.needed <> r.ev_class
        UNION ALL SELECT 'c', f.adrelid, 'column', b.attname, d.catalogue, d.needed, d."column"
          FROM d JOIN pg_catalog.pg_attrdef f ON f.oid = d.objid
           AND d.classid = 'pg_catalog.pg_attrdef'::pg_catalog.regclass
          JOIN pg_catalog.pg_attribute b ON b.attrelid = f.adrelid AND b.attnum = f.adnum
         WHERE d.needed <> f.adrelid OR d.refobjsubid <> f.adnum
        UNION ALL SELECT 'c', coalesce(x.indrelid, c.oid), CASE WHEN d.objsubid > 0 THEN 'column'
            WHEN x.indrelid IS NOT NULL THEN 'index' ELSE '' END,
            coalesce(b.attname, CASE WHEN x.indrelid IS NOT NULL THEN c.relname ELSE '' END),
            d.catalogue, d.needed, d."column"
          FROM d JOIN pg_catalog.pg_class c ON c.oid = d.objid
           AND d.classid = 'pg_catalog.pg_class'::pg_catalog.regclass
          LEFT JOIN pg_catalog.pg_index x ON x.indexrelid = c.oid
          LEFT JOIN pg_catalog.pg_attribute b ON b.attrelid = c.oid AND b.attnum = d.objsubid
            AND d.objsubid > 0
         WHERE c.relkind IN ('r', 'p', 'c', 'i', 'I') AND d.needed <> coalesce(x.indrelid, 0)
        UNION ALL SELECT 'p', d.objid, '', '', d.catalogue, d.needed, d."column" FROM d
         WHERE d.classid = 'pg_catalog.pg_proc'::pg_catalog.regclass
        UNION ALL SELECT 't', d.objid, '', '', d.catalogue, d.needed, d."column" FROM d
         WHERE d.classid = 'pg_catalog.pg_type'::pg_catalog.regclass
        UNION ALL SELECT CASE WHEN k.conrelid <> 0 THEN 'c' ELSE 't' END,
            CASE WHEN k.conrelid <> 0 THEN k.conrelid ELSE k.contypid END, 'constraint', k.conname,
            CASE WHEN d.refclassid = 'pg_catalog.pg_proc'::pg_catalog.regclass THEN 'p'
              WHEN d.refclassid = 'pg_catalog.pg_class'::pg_catalog.regclass THEN 'c'
              WHEN d.refclassid = 'pg_catalog.pg_operator'::pg_catalog.regclass THEN 'o'
              ELSE 't' END,
            d.refobjid, NULL
          FROM pg_catalog.pg_constraint k JOIN pg_catalog.pg_depend d ON d.objid = k.oid
           AND d.classid = 'pg_catalog.pg_constraint'::pg_catalog.regclass AND d.deptype = 'n'
         WHERE k.contype IN ('c', 'x') AND d.refobjid >= 16384
           AND d.refobjid NOT IN (k.conrelid, k.contypid)
        UNION ALL SELECT 'c', g.tgrelid, 'trigger', g.tgname, d.catalogue, d.needed, d."column"
          FROM d JOIN pg_catalog.pg_trigger g ON g.oid = d.objid
           AND d.classid = 'pg_catalog.pg_trigger'::pg_catalog.regclass
         WHERE d.needed <> g.tgrelid OR d.refobjsubid > 0
        UNION ALL SELECT 'c', p.polrelid, 'policy', p.polname, d.catalogue, d.needed, d."column"
          FROM d JOIN pg_catalog.pg_policy p ON p.oid = d.objid
           AND d.classid = 'pg_catalog.pg_policy'::pg_catalog.regclass
         WHERE d.needed <> p.polrelid OR d.refobjsubid > 0
        UNION ALL SELECT 'o', d.objid, '', '', d.catalogue, d.needed, d."column" FROM d
         WHERE d.classid IN ('pg_catalog.pg_operator'::pg_catalog.regclass,
           'pg_catalog.pg_statistic_ext'::pg_catalog.regclass)
        UNION ALL SELECT 'o', r.oid, '', '', d.catalogue, d.needed, d."column"
          FROM d JOIN pg_catalog.pg_rewrite r ON r.oid = d.objid
           AND d.classid = 'pg_catalog.pg_rewrite'::pg_catalog.regclass
         WHERE r.rulename <> '_RETURN') found (catalogue, needs, kind, part, other, needed, "column")
      ORDER BY 1, 2, 3, 4, 5, 6, 7""";

  private final List<Row> rows = new ArrayList<>();

  /** A row of the query's result. */
  private record Row(
      String catalog,
      String number,
      String kind,
      String part,
      String otherCatalog,
      String otherNumber,
      String column) {}

  /** Takes what {@link #QUERY} found. */
  void read(ResultSet found) throws SQLException {
    while (found.next()) {
      rows.add(
          new Row(
              found.getString(1),
              found.getString(2),
              found.getString(3),
              found.getString(4),
              found.getString(5),
              found.getString(6),
              Optional.ofNullable(found.getString(7)).orElse("")));
    }
  }

  /** What each object and part needs, by the object and, for a part, its kind and name. */
  private static final class Needs {
    private final Map<List<Object>, List<Dependency>> byDependent = new HashMap<>();

    private void add(List<Object> dependent, Dependency needed) {
      byDependent.computeIfAbsent(dependent, key -> new ArrayList<>()).add(needed);
    }

    private List<Dependency> of(Object... dependent) {
      return byDependent.getOrDefault(List.of(dependent), List.of());
    }

    private boolean isEmpty() {
      return byDependent.isEmpty();
    }
  }

  /** The same structure with what its objects and parts need. */
  Schema in(Schema schema, PostgresNumbers numbers) {
    Needs needs = needs(numbers);
    if (needs.isEmpty()) {
      return schema;
    }
    return new Schema(
            schema.tables().stream().map(table -> with(table, needs)).toList(),
            schema.objects().stream().map(object -> with(object, needs)).toList(),
            schema.unseen())
        .withCatalogFingerprint(schema.catalogFingerprint());
  }

  private Needs needs(PostgresNumbers numbers) {
    Needs needs = new Needs();
    for (Row row : rows) {
      Optional<ObjectId> dependent = numbers.object(row.catalog(), row.number());
      Optional<ObjectId> needed =
          numbers
              .object(row.otherCatalog(), row.otherNumber())
              .or(() -> numbers.object(PostgresNumbers.CLASS, row.otherNumber()));
      if (dependent.isPresent() && needed.isPresent()) {
        Dependency dependency = Dependency.cataloged(needed.get(), row.column());
        needs.add(dependent(dependent.get(), row), dependency);
      }
    }
    return needs;
  }

  private static List<Object> dependent(ObjectId id, Row row) {
    return switch (row.kind()) {
      case "" -> List.of(id);
      case "trigger" -> List.of(new ObjectId(Kind.TRIGGER, id.schema(), row.part(), id.name()));
      case "policy" -> List.of(new ObjectId(Kind.POLICY, id.schema(), row.part(), id.name()));
      default -> List.of(id, row.kind(), row.part());
    };
  }

  private static Table with(Table table, Needs needs) {
    return new Table(
        table.id(),
        table.columns().stream().map(one -> column(table.id(), one, needs)).toList(),
        table.key(),
        table.foreignKeys(),
        table.constraints().stream().map(one -> constraint(table.id(), one, needs)).toList(),
        table.indexes().stream().map(one -> index(table.id(), one, needs)).toList(),
        table.options(),
        table.text(),
        needs.of(table.id()));
  }

  private static Column column(ObjectId owner, Column column, Needs needs) {
    List<Dependency> needed = needs.of(owner, "column", column.name());
    return needed.isEmpty() ? column : column.dependingOn(needed);
  }

  private static Constraint constraint(ObjectId owner, Constraint constraint, Needs needs) {
    List<Dependency> needed = needs.of(owner, "constraint", constraint.knownAs());
    return needed.isEmpty() ? constraint : constraint.dependingOn(needed);
  }

  private static Index index(ObjectId owner, Index index, Needs needs) {
    List<Dependency> needed = needs.of(owner, "index", index.name());
    return needed.isEmpty() ? index : index.dependingOn(needed);
  }

  private static DatabaseObject with(DatabaseObject object, Needs needs) {
    DatabaseObject own = object;
    if (object instanceof View view && !view.indexes().isEmpty()) {
      List<Index> indexes =
          view.indexes().stream().map(one -> index(view.id(), one, needs)).toList();
      own = view.with(view.facts(), indexes);
    } else if (object instanceof DomainType type) {
      List<Constraint> checks =
          type.checks().stream().map(one -> constraint(type.id(), one, needs)).toList();
      own = type.with(type.facts(), checks);
    } else if (object.kind() == Kind.COMPOSITE) {
      own =
          object.with(
              object.facts(),
              object.parts().stream()
                  .map(one -> column(object.id(), (Column) one, needs))
                  .toList());
    }
    List<Dependency> needed = needs.of(object.id());
    return needed.isEmpty() ? own : own.dependingOn(needed);
  }
}
