package org.wornladder.schema;

/** A view with the engine's own statement for it. */
public record View(String name, String definition) {}
