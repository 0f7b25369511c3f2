package org.wornladder.entity.orchard;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.ManyToMany;
import jakarta.persistence.OrderColumn;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;

@Entity
class Course {
  @Id @GeneratedValue UUID id;

  String title;

  @ManyToMany(mappedBy = "courses")
  Set<Picker> pickers = new HashSet<>();

  @ManyToMany @OrderColumn List<Chapter> chapters = new ArrayList<>();
}
