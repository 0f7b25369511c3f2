package org.wornladder.entity.orchard;

import jakarta.persistence.Id;
import jakarta.persistence.MappedSuperclass;

/** An identifier whose class the subclass chooses. */
@MappedSuperclass
abstract class Numbered<T> {
  @Id T number;
}
