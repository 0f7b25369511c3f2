package org.wornladder.entity.orchard;

import jakarta.persistence.ElementCollection;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.ManyToOne;
import jakarta.persistence.MapKeyEnumerated;
import java.math.BigInteger;
import java.util.HashMap;
import java.util.Map;

@Entity
class Repair extends Numbered<Integer> {
  @ManyToOne Machine machine;

  BigInteger cents;

  byte[] receipt;

  @ElementCollection
  @MapKeyEnumerated(EnumType.STRING)
  Map<Size, Integer> screws = new HashMap<>();

  @Enumerated(EnumType.STRING)
  Size size;
}
