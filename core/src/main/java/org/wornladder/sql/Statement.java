package org.wornladder.sql;

/**
 * One statement of a script.
 *
 * @param text the statement from its first to its last meaning token, comments between them
 *     included, without its end mark
 * @param place where it begins
 * @param data rows that follow a bulk load, with the line that ends them; empty for all others
 */
public record Statement(String text, Place place, String data) {}
