package org.wornladder.entity.orchard;

import jakarta.persistence.AttributeConverter;
import jakarta.persistence.Converter;

@Converter(autoApply = true)
class WeightConverter implements AttributeConverter<Weight, Long> {
  @Override
  public Long convertToDatabaseColumn(Weight weight) {
    return weight == null ? null : Math.round(weight.kilograms() * 1000);
  }

  @Override
  public Weight convertToEntityAttribute(Long grams) {
    return grams == null ? null : new Weight(grams / 1000.0);
  }
}
