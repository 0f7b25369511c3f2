package org.wornladder.engine.document;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonString;
import org.wornladder.change.Alteration;
import org.wornladder.change.Ddl;
import org.wornladder.change.RowCheck;
import org.wornladder.change.SchemaChange;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Index;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.OtherObject;
import org.wornladder.schema.Part;
import org.wornladder.schema.Table;
import org.wornladder.schema.View;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;

/** Writes changes of structures as database commands. */
final class DocumentDdl implements Ddl {
  private static final String CREATE = "create";
  private static final String COL_MOD = "collMod";

  /** The options that a collection can be given later (its manual, "collMod"). */
  private static final Set<String> CHANGEABLE =
      Set.of("validator", "validationLevel", "validationAction", "expireAfterSeconds");

  /** What an option is that is not said. */
  private static final Map<String, String> UNSAID =
      Map.of("validator", "{}", "validationLevel", "\"strict\"", "validationAction", "\"error\"");

  @Override
  public Dialect dialect() {
    return Dialects.DOCUMENT;
  }

  @Override
  public List<String> statements(SchemaChange change) {
    return commands(change).stream().map(DocumentJson::text).toList();
  }

  private static List<BsonDocument> commands(SchemaChange change) {
    if (change instanceof SchemaChange.Create create) {
      return List.of(create(create.object()));
    }
    if (change instanceof SchemaChange.Drop drop) {
      return List.of(command("drop", drop.object().id()));
    }
    if (change instanceof SchemaChange.Alter alter) {
      return List.of(alter(alter.before(), alter.after()));
    }
    if (change instanceof SchemaChange.AddPart add && add.part() instanceof Index index) {
      return List.of(createIndex(add.target(), index));
    }
    if (change instanceof SchemaChange.DropPart drop) {
      return List.of(
          command("dropIndexes", drop.target())
              .append("index", new BsonString(drop.part().name())));
    }
    throw new IllegalArgumentException("no command makes " + change);
  }

  private static BsonDocument command(String name, ObjectId object) {
    return new BsonDocument(name, new BsonString(object.name()));
  }

  private static BsonDocument create(DatabaseObject object) {
    BsonDocument command = command(CREATE, object.id());
    command.putAll(
        object instanceof View view
            ? DocumentJson.document(view.definition())
            : DocumentJson.of(((Table) object).options()));
    return command;
  }

  private static BsonDocument createIndex(ObjectId collection, Index index) {
    BsonDocument definition = DocumentJson.document(index.definition());
    definition.put("name", new BsonString(index.name()));
    return command("createIndexes", collection)
        .append("indexes", new BsonArray(List.of(definition)));
  }

  private static BsonDocument alter(DatabaseObject before, DatabaseObject after) {
    BsonDocument command = command(COL_MOD, after.id());
    command.putAll(
        after instanceof View view
            ? DocumentJson.document(view.definition())
            : DocumentJson.of(changed((Table) before, (Table) after)));
    return command;
  }

  /** The options that differ, as they become. */
  private static Map<String, String> changed(Table before, Table after) {
    Map<String, String> changed = new TreeMap<>(after.options());
    before.options().forEach((name, value) -> changed.remove(name, value));
    before.options().keySet().stream()
        .filter(name -> !after.options().containsKey(name))
        .forEach(name -> changed.put(name, UNSAID.getOrDefault(name, "null")));
    return changed;
  }

  @Override
  public Optional<String> refusal(DatabaseObject object) {
    return object instanceof OtherObject
        ? Optional.of("its password is not in the database in a form that could be written")
        : Optional.empty();
  }

  @Override
  public Alteration alteration(SchemaChange change) {
    if (change instanceof SchemaChange.Create create && refusal(create.object()).isPresent()) {
      return Alteration.notPossible(refusal(create.object()).get());
    }
    if (change instanceof SchemaChange.AlterPart) {
      return Alteration.RECREATE;
    }
    if (change instanceof SchemaChange.Alter alter
        && alter.before() instanceof Table before
        && alter.after() instanceof Table after) {
      Set<String> options = changed(before, after).keySet();
      return CHANGEABLE.containsAll(options)
          ? Alteration.IN_PLACE
          : Alteration.notPossible("a collection keeps its " + String.join(", ", options));
    }
    return change instanceof SchemaChange.Alter alter && alter.before() instanceof OtherObject
        ? Alteration.notPossible("roles are granted by hand")
        : Alteration.IN_PLACE;
  }

  @Override
  public boolean isInside(DatabaseObject object, Part part) {
    return false;
  }

  @Override
  public boolean tolerates(SchemaChange change, DatabaseObject dependent, Optional<Part> part) {
    return true;
  }

  @Override
  public String count(RowCheck check) {
    throw noQuery();
  }

  @Override
  public String examples(RowCheck check, List<String> key, int most) {
    throw noQuery();
  }

  @Override
  public String literal(Column column) {
    throw noQuery();
  }

  @Override
  public String rowsOf(Table table) {
    throw noQuery();
  }

  @Override
  public String insertion(Table table, List<Column> columns) {
    throw noQuery();
  }

  private static UnsupportedOperationException noQuery() {
    return new UnsupportedOperationException("a document database has no columns and no SQL");
  }
}
