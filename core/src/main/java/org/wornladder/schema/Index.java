package org.wornladder.schema;

import java.util.List;

/**
 * An index.
 *
 * @param columns in index order; an expression stands as {@code (expression)}
 * @param fromConstraint whether a primary key or unique constraint made it
 */
public record Index(
    String name, List<String> columns, boolean unique, boolean partial, boolean fromConstraint) {
  public Index {
    columns = List.copyOf(columns);
  }
}
