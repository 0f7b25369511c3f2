package org.wornladder.project;

import org.wornladder.sql.Place;

/** Where the documents of a seed come from. */
public interface DocumentSource {
  /** Takes documents. */
  interface Visitor<E extends Exception> {
    /**
     * Takes one.
     *
     * @param line where it begins in its file, or its number if it is made up; from 1 on
     * @param json relaxed Extended JSON, if the file is right
     */
    void document(int line, String json) throws E;
  }

  /**
   * Hands over one document after the other.
   *
   * @throws org.wornladder.ProjectException where a file is malformed, or cannot be read
   * @throws E what the visitor throws
   */
  <E extends Exception> void each(Visitor<E> visitor) throws E;

  /** Where a document stands, by what the visitor was given as its line. */
  Place place(int line);

  /** SHA-256 of what they come from, as 64 hexadecimal digits. */
  String fingerprint();
}
