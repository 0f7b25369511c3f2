package org.wornladder.entity.orchard;

import jakarta.persistence.AttributeConverter;
import jakarta.persistence.Converter;

@Converter
class YesConverter implements AttributeConverter<Boolean, String> {
  @Override
  public String convertToDatabaseColumn(Boolean value) {
    return value == null ? null : value ? "Y" : "N";
  }

  @Override
  public Boolean convertToEntityAttribute(String text) {
    return text == null ? null : text.equals("Y");
  }
}
