package org.wornladder.spring.sample;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;

/** A bin, as the sample application keeps it. */
@Entity
public class Bin {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  @Column(nullable = false, length = 10)
  private String code;

  private Integer weight;

  protected Bin() {}

  public Bin(String code, int weight) {
    this.code = code;
    this.weight = weight;
  }

  public String code() {
    return code;
  }

  public int weight() {
    return weight;
  }
}
