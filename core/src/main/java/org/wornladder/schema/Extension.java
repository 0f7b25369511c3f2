package org.wornladder.schema;

import java.util.List;
import java.util.Map;

/** An extension of the server. See {@link DefinedObject}. */
public record Extension(ObjectId id, String definition, Map<String, String> more)
    implements DefinedObject {
  public Extension {
    more = Facts.of(more);
  }

  @Override
  public List<Dependency> dependsOn() {
    return List.of();
  }
}
