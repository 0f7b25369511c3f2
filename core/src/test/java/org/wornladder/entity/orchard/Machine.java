package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Inheritance;
import jakarta.persistence.InheritanceType;
import java.util.UUID;

/** Each kind in a table of its own. */
@Entity
@Inheritance(strategy = InheritanceType.TABLE_PER_CLASS)
abstract class Machine extends Numbered<UUID> {
  @Column(nullable = false, length = 40)
  String model;
}
