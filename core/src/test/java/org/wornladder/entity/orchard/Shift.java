package org.wornladder.entity.orchard;

import jakarta.persistence.Access;
import jakarta.persistence.AccessType;
import jakarta.persistence.Column;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.ManyToOne;
import jakarta.persistence.Table;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.HashSet;
import java.util.Set;

/** By its getters. */
@Entity
@Table(name = "shift")
class Shift {
  private Long id;
  private LocalDate day;
  private Set<Interval> intervals = new HashSet<>();
  private Picker picker;
  private Pay pay = new Pay();

  @Access(AccessType.FIELD)
  private OffsetDateTime noted;

  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  public Long getId() {
    return id;
  }

  public void setId(Long id) {
    this.id = id;
  }

  @Column(name = "on_day", nullable = false)
  public LocalDate getDay() {
    return day;
  }

  public void setDay(LocalDate day) {
    this.day = day;
  }

  @ElementCollection
  public Set<Interval> getIntervals() {
    return intervals;
  }

  public void setIntervals(Set<Interval> intervals) {
    this.intervals = intervals;
  }

  @Embedded
  public Pay getPay() {
    return pay;
  }

  public void setPay(Pay pay) {
    this.pay = pay;
  }

  @ManyToOne(optional = false)
  public Picker getPicker() {
    return picker;
  }

  public void setPicker(Picker picker) {
    this.picker = picker;
  }

  OffsetDateTime noted() {
    return noted;
  }

  void note(OffsetDateTime when) {
    noted = when;
  }
}
