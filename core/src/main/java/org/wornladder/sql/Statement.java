package org.wornladder.sql;

/**
 * One statement of a script.
 *
 * @param text the statement from its first meaning token to its end mark, comments included; of one
 *     without an end mark, to its last meaning token
 * @param place where it begins
 * @param data rows that follow a bulk load, with the line that ends them; empty for all others
 */
public record Statement(String text, Place place, String data) {}
