package org.wornladder.schema;

import java.util.Optional;

/**
 * A column.
 *
 * @param type as declared; may be empty where the engine allows it
 * @param defaultValue the expression, as the engine prints it
 * @param generated whether it is computed from others
 */
public record Column(
    String name, String type, boolean nullable, Optional<String> defaultValue, boolean generated) {}
