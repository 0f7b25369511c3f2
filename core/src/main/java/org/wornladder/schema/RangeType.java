package org.wornladder.schema;

import java.util.List;
import java.util.Map;

/** A type of ranges over another one. See {@link DefinedObject}. */
public record RangeType(
    ObjectId id, String definition, Map<String, String> more, List<Dependency> dependsOn)
    implements DefinedObject {
  public RangeType {
    more = Facts.of(more);
    dependsOn = Dependency.sorted(dependsOn);
  }
}
