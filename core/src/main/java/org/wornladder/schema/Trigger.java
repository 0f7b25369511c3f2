package org.wornladder.schema;

/** A trigger with the engine's own statement for it. */
public record Trigger(String name, String table, String definition) {}
