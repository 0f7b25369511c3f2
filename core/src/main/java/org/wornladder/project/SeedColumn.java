package org.wornladder.project;

/**
 * A column of a seed file that is written.
 *
 * @param name its name in the file
 * @param shape how JSON and YAML write its values
 */
public record SeedColumn(String name, Shape shape) {
  /** How JSON and YAML write a value; CSV writes all alike. */
  public enum Shape {
    /** As a string. */
    TEXT,
    /** A number or truth value, without quotes. */
    PLAIN,
    /** A list or map where the text is one in JSON, a string otherwise. */
    NESTED
  }

  /**
   * How a value is written over one that is a list or a map: as one too, unless the column is of
   * texts, and this one would be read back as another.
   */
  Shape shapeOverNested(String text) {
    boolean same = JsonText.compact(text).filter(text::equals).isPresent();
    return same ? Shape.NESTED : shape;
  }
}
