package org.wornladder.entity.orchard;

enum Size {
  SMALL,
  LARGE
}
