package org.wornladder.entity;

import java.util.Optional;

/**
 * A column that classes describe.
 *
 * @param name as SQL writes it, with quotes where the class has them
 * @param isIdentity whether the database numbers it
 * @param check a condition on its values; empty for none
 */
record ModelColumn(
    String name, ColumnType type, boolean nullable, boolean isIdentity, Optional<String> check) {
  static ModelColumn of(String name, ColumnType type, boolean nullable) {
    return new ModelColumn(name, type, nullable, false, Optional.empty());
  }

  ModelColumn named(String other) {
    return new ModelColumn(other, type, nullable, isIdentity, check);
  }

  ModelColumn nullable(boolean may) {
    return new ModelColumn(name, type, may, isIdentity, check);
  }

  /** One that points to it. */
  ModelColumn reference(String other, boolean may) {
    return new ModelColumn(other, type, may, false, Optional.empty());
  }
}
