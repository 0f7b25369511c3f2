package org.wornladder.entity.orchard;

import jakarta.persistence.Entity;
import java.time.Duration;

@Entity
class Sprayer extends Machine {
  long capacity;
  Duration untilEmpty;
}
