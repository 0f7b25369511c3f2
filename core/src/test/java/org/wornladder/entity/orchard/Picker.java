package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.DiscriminatorValue;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.JoinTable;
import jakarta.persistence.ManyToMany;
import jakarta.persistence.ManyToOne;
import java.util.HashSet;
import java.util.Set;

@Entity
@DiscriminatorValue("p")
class Picker extends Person {
  @Enumerated(EnumType.STRING)
  @Column(length = 12, nullable = false)
  Skill skill;

  @Enumerated Size gloves;

  Weight dailyBest;

  @ManyToOne Foreman foreman;

  @ManyToMany
  @JoinTable(
      name = "picker_course",
      joinColumns = @JoinColumn(name = "picker"),
      inverseJoinColumns = @JoinColumn(name = "course"))
  Set<Course> courses = new HashSet<>();
}
