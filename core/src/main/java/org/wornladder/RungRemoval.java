package org.wornladder;

import java.util.List;

/**
 * A rung whose file was deleted.
 *
 * @param asked the environments that said that they do not have the rung
 */
public record RungRemoval(String file, List<String> asked) {}
