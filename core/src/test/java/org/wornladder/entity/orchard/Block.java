package org.wornladder.entity.orchard;

import jakarta.persistence.CollectionTable;
import jakarta.persistence.Column;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Entity;
import jakarta.persistence.ForeignKey;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.ManyToOne;
import jakarta.persistence.MapKeyColumn;
import jakarta.persistence.OneToMany;
import jakarta.persistence.OrderColumn;
import jakarta.persistence.SequenceGenerator;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

@Entity
class Block extends Kept {
  @Id
  @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "block_numbers")
  @SequenceGenerator(name = "block_numbers", sequenceName = "block_number", allocationSize = 5)
  Long id;

  @ManyToOne(optional = false)
  @JoinColumn(name = "orchard_id", foreignKey = @ForeignKey(name = "block_in_orchard"))
  Orchard orchard;

  @Column(precision = 9, scale = 3)
  BigDecimal hectares;

  @OneToMany
  @JoinColumn(name = "block_id")
  Set<Tree> trees = new HashSet<>();

  @ElementCollection
  @CollectionTable(name = "block_sample", joinColumns = @JoinColumn(name = "block"))
  @OrderColumn(name = "place")
  @Column(name = "grams", nullable = false)
  List<Integer> samples = new ArrayList<>();

  @ElementCollection
  @MapKeyColumn(name = "season", length = 9)
  @Column(name = "kilograms")
  Map<String, BigDecimal> harvests = new HashMap<>();
}
