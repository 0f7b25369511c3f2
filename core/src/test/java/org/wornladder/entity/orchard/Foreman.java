package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.Convert;
import jakarta.persistence.DiscriminatorValue;
import jakarta.persistence.Entity;
import jakarta.persistence.OneToMany;
import java.util.ArrayList;
import java.util.List;

@Entity
@DiscriminatorValue("f")
class Foreman extends Person {
  @Column(length = 1)
  @Convert(converter = YesConverter.class)
  Boolean drives;

  @OneToMany(mappedBy = "foreman")
  List<Picker> crew = new ArrayList<>();
}
