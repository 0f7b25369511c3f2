package org.wornladder.entity.orchard;

/** Kilograms that are kept in grams. */
record Weight(double kilograms) {}
