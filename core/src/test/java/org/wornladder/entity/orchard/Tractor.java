package org.wornladder.entity.orchard;

import jakarta.persistence.Entity;

@Entity
class Tractor extends Machine {
  int horsepower;
  float litresAnHour;
}
