package org.wornladder.engine.document;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.bson.BsonBoolean;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonString;
import org.wornladder.engine.Fault;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.OtherObject;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.schema.View;

/** Reads the structure of a database: collections with options and indexes, views, users, roles. */
record DocumentStructure(DocumentConnection connection, List<String> without) {
  /** The index that every collection has. */
  private static final String OF_KEY = "_id_";

  /** What a listing of indexes says beside the definition. */
  private static final Set<String> NO_DEFINITION = Set.of("v", "ns", "name");

  Schema read() throws SQLException {
    List<Table> tables = new ArrayList<>();
    List<DatabaseObject> objects = new ArrayList<>();
    for (BsonDocument listed : connection.collections()) {
      if (!without.contains(DocumentConnection.name(listed))) {
        add(listed, tables, objects);
      }
    }
    Set<Kind> unseen = accounts(objects);
    tables.sort((one, other) -> one.name().compareTo(other.name()));
    return new Schema(tables, objects, unseen);
  }

  /** What one name stands for: a collection or view, or a user or role. */
  Schema named(String name, boolean isCollection) throws SQLException {
    List<Table> tables = new ArrayList<>();
    List<DatabaseObject> objects = new ArrayList<>();
    if (isCollection) {
      Optional<BsonDocument> listed = connection.collectionNamed(name);
      if (listed.isPresent()) {
        add(listed.get(), tables, objects);
      }
    } else {
      accounts(objects);
      objects.removeIf(object -> !object.name().equals(name));
    }
    return new Schema(tables, objects);
  }

  private void add(BsonDocument listed, List<Table> tables, List<DatabaseObject> objects)
      throws SQLException {
    String name = DocumentConnection.name(listed);
    if (isView(listed)) {
      objects.add(view(name, options(listed)));
    } else {
      tables.add(table(name, options(listed)));
    }
  }

  static boolean isView(BsonDocument listed) {
    return listed.getString("type", new BsonString("collection")).getValue().equals("view");
  }

  private static BsonDocument options(BsonDocument listed) {
    return listed.getDocument("options", new BsonDocument());
  }

  private static View view(String name, BsonDocument options) {
    return new View(
        ObjectId.of(Kind.VIEW, name), DocumentJson.text(options), Map.of(), List.of(), List.of());
  }

  /** One collection as it is. */
  Table table(String name, BsonDocument options) throws SQLException {
    Map<String, String> said = new TreeMap<>();
    options.forEach((key, value) -> said.put(key, DocumentJson.text(value)));
    List<Index> indexes = new ArrayList<>();
    for (BsonDocument index : connection.indexes(name)) {
      if (!DocumentConnection.name(index).equals(OF_KEY)) {
        indexes.add(index(index));
      }
    }
    return new Table(
        ObjectId.of(Kind.COLLECTION, name),
        List.of(),
        Optional.empty(),
        List.of(),
        List.of(),
        indexes,
        said,
        "",
        List.of());
  }

  private static Index index(BsonDocument listed) {
    BsonDocument definition = new BsonDocument();
    listed.forEach(
        (key, value) -> {
          if (!NO_DEFINITION.contains(key)) {
            definition.put(key, value);
          }
        });
    return new Index(
        DocumentConnection.name(listed),
        List.copyOf(listed.getDocument("key", new BsonDocument()).keySet()),
        listed.getBoolean("unique", BsonBoolean.FALSE).getValue(),
        listed.containsKey("partialFilterExpression"),
        false,
        DocumentJson.text(definition));
  }

  /** Users and roles; returns the kinds of which this user may not see all. */
  private Set<Kind> accounts(List<DatabaseObject> objects) throws SQLException {
    Set<Kind> unseen = EnumSet.noneOf(Kind.class);
    try {
      accounts("usersInfo", "users", Kind.USER, objects);
      accounts("rolesInfo", "roles", Kind.ROLE, objects);
    } catch (SQLException e) {
      if (DocumentErrors.kind(e) == Fault.Kind.DENIED) {
        unseen.addAll(List.of(Kind.USER, Kind.ROLE));
      } else if (!DocumentErrors.isUnknownCommand(e)) {
        throw e;
      }
    }
    return unseen;
  }

  /** Those of this database, by name, with the roles that they have. */
  private void accounts(String command, String key, Kind kind, List<DatabaseObject> objects)
      throws SQLException {
    for (BsonDocument one : connection.listed(new BsonDocument(command, new BsonInt32(1)), key)) {
      String name = one.getString(kind.label(), new BsonString("")).getValue();
      BsonDocument roles = new BsonDocument("roles", one.get("roles", new BsonDocument()));
      objects.add(
          new OtherObject(
              ObjectId.of(kind, name),
              DocumentJson.text(roles),
              Map.of(OtherObject.DROPPED_AS, kind.label() + " " + name),
              List.of()));
    }
  }
}
