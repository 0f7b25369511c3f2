package org.wornladder.entity.orchard;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.MapsId;
import jakarta.persistence.OneToOne;

@Entity
class CrateSeal {
  @Id String code;

  @OneToOne @MapsId Crate crate;

  char colour;
}
