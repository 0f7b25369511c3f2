package org.wornladder.entity.orchard;

import jakarta.persistence.CollectionTable;
import jakarta.persistence.Column;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.JoinTable;
import jakarta.persistence.MapKey;
import jakarta.persistence.MapKeyJoinColumn;
import jakarta.persistence.OneToMany;
import jakarta.persistence.OrderColumn;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** With maps by an attribute, by another entity, and by a part of itself. */
@Entity
class Team {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  @OneToMany
  @JoinTable(name = "team_course")
  @MapKey(name = "title")
  Map<String, Course> courses = new HashMap<>();

  @ElementCollection
  @CollectionTable(name = "team_share")
  @MapKeyJoinColumn(name = "member")
  @Column(name = "percent", nullable = false)
  Map<Person, Integer> shares = new HashMap<>();

  @OneToMany
  @JoinColumn(name = "team")
  @OrderColumn(name = "place_in_team")
  List<Errand> errands = new ArrayList<>();
}
