package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;

@Embeddable
class Address {
  String street;

  @Column(length = 60, nullable = false)
  String town;
}
