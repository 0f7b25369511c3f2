package org.wornladder.engine;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;

/**
 * The documents of a document database: what they hold, and how those of a seed are held against
 * them and brought there.
 */
public interface Documents {
  /** What is to be done about a document. */
  enum Fate {
    ADDED,
    UPDATED,
    /** It is there as it should be, or is left as it is. */
    UNCHANGED
  }

  /**
   * One field that becomes another one.
   *
   * @param before as relaxed Extended JSON; empty if it is not there
   * @param after likewise
   */
  record Field(String name, Optional<String> before, Optional<String> after) {}

  /**
   * What is done about one document.
   *
   * @param fields those that change; of a document that is added, all, where they are wanted
   */
  record Outcome(Fate fate, List<Field> fields) {}

  /**
   * The collection, and how documents are found there.
   *
   * @param key the fields by which they are; none of them is empty
   * @param update whether documents that are there take on what the file says
   */
  record Into(String collection, List<String> key, boolean update) {}

  /**
   * A field that some documents of a sample have.
   *
   * @param name with the names of the fields around it and points between; {@code []} behind a name
   *     is for the elements of an array
   * @param types how many values there are of each type, by the type's name
   */
  record FieldTypes(String name, SortedMap<String, Long> types) {}

  /**
   * What the first documents of a collection hold; others may hold something else.
   *
   * @param documents how many were looked at
   */
  record FieldSample(long documents, List<FieldTypes> fields) {}

  /** Looks at the first documents of a collection. */
  FieldSample fields(String collection, int most) throws SQLException;

  /**
   * A document that was read.
   *
   * @param key what it says under the fields of the key, so that two of one key are of one text
   * @param content in the driver's own form
   */
  record Parsed(String key, Object content) {}

  /**
   * Reads a document.
   *
   * @param json relaxed Extended JSON
   * @throws BadValueException if it is none, or lacks a field of the key
   */
  Parsed parse(String json, List<String> key) throws BadValueException;

  /**
   * The different values of a field in a collection, in order; none if it is not there.
   *
   * @return as relaxed Extended JSON
   */
  List<String> values(String collection, String field) throws SQLException;

  /** Whether a collection holds nothing, or is not there. */
  boolean isEmpty(String collection) throws SQLException;

  /**
   * Compares documents with those that stand, and writes what differs if that is wanted. Fields
   * that a document does not name stay as they are.
   *
   * @param documents of different keys
   * @param empty whether the collection held nothing before the first of them
   * @param shown of how many of those that change the fields are wanted
   * @return what is or was done about each
   */
  List<Outcome> take(Into into, List<Parsed> documents, boolean empty, int shown, boolean writes)
      throws SQLException;

  /**
   * The documents that stand and have none of some keys; they are deleted if that is wanted.
   *
   * @param keys as {@link #parse} gives them
   * @return their keys
   */
  List<String> others(Into into, Set<String> keys, boolean deletes) throws SQLException;
}
