package org.wornladder.schema;

import java.util.List;
import java.util.Map;

/** A statement that the database runs at times. See {@link DefinedObject}. */
public record Event(
    ObjectId id, String definition, Map<String, String> more, List<Dependency> dependsOn)
    implements DefinedObject {
  public Event {
    more = Facts.of(more);
    dependsOn = Dependency.sorted(dependsOn);
  }

  @Override
  public boolean isHidden() {
    return definition.isEmpty();
  }
}
