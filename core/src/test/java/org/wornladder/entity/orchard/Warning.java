package org.wornladder.entity.orchard;

import jakarta.persistence.Entity;

@Entity
class Warning extends Message {
  byte level;
}
