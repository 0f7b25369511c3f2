package org.wornladder.entity.orchard;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;

/** Nothing points to it. */
@Entity(name = "Tank")
class FuelTank {
  @Id String place;

  double litres;
}
