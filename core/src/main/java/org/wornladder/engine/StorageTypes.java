package org.wornladder.engine;

/**
 * The types of the columns in the tool's own tables.
 *
 * @param number for whole numbers of 64 bits, also as a primary key
 * @param small for whole numbers of 32 bits
 * @param word for plain texts of at most 64 characters
 * @param text for texts of a line
 * @param script for texts of any length
 * @param filled what says that a column is never NULL; empty where the engine may take an empty
 *     text for NULL
 * @param options what comes after the table's closing parenthesis; may be empty
 */
public record StorageTypes(
    String number,
    String small,
    String word,
    String text,
    String script,
    String filled,
    String options) {
  public static final String NOT_NULL = " NOT NULL";
}
