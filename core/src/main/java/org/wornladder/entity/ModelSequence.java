package org.wornladder.entity;

/** A sequence from which identifiers come. */
record ModelSequence(ModelTable.Name name, long start, long increment) {}
