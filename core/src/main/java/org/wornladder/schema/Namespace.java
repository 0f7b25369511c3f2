package org.wornladder.schema;

import java.util.List;
import java.util.Map;

/** A schema. See {@link DefinedObject}. */
public record Namespace(ObjectId id, String definition, Map<String, String> more)
    implements DefinedObject {
  public Namespace {
    more = Facts.of(more);
  }

  @Override
  public List<Dependency> dependsOn() {
    return List.of();
  }
}
