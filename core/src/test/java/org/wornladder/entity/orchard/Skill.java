package org.wornladder.entity.orchard;

enum Skill {
  PICKING,
  PRUNING,
  GRAFTING
}
