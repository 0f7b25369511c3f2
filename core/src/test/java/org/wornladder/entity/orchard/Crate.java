package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.ManyToOne;

@Entity
class Crate {
  @Id
  @Column(length = 20)
  String code;

  @ManyToOne Shelf shelf;
}
