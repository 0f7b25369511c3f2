package org.wornladder.service;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.change.CreationScript;
import org.wornladder.change.Ddl;
import org.wornladder.change.SqlScript;
import org.wornladder.project.SchemaWriter.Declared;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.ObjectId;

/** Objects as the files in {@code schema/} declare them. */
final class DeclaredObjects {
  private DeclaredObjects() {}

  /** One text an object; none for an object that cannot be written. */
  static List<Declared> of(List<DatabaseObject> objects, Ddl ddl) {
    List<Declared> declared = new ArrayList<>();
    for (DatabaseObject object : objects) {
      CreationScript script = CreationScript.of(List.of(object), ddl);
      if (!script.statements().isEmpty()) {
        declared.add(
            new Declared(
                folder(object.id()), object.id().name(), SqlScript.of(script.statements())));
      }
    }
    return declared;
  }

  /** The folder of an object's kind. */
  static String folder(ObjectId id) {
    return id.kind().plural().replace(' ', '-');
  }
}
