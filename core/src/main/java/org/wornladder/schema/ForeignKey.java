package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A reference to another table.
 *
 * @param name empty if the engine invented it
 * @param knownAs the name that the engine knows it by, chosen or not; empty if it has none
 * @param targetColumns empty where the target's primary key is meant
 * @param onUpdate the action's words, such as NO ACTION
 * @param onDelete likewise
 * @param more what else is said of it, such as DEFERRABLE; empty if nothing
 * @param comment empty if it has none
 */
public record ForeignKey(
    Optional<String> name,
    String knownAs,
    List<String> columns,
    String table,
    List<String> targetColumns,
    String onUpdate,
    String onDelete,
    String more,
    String comment) {
  private static final String BETWEEN = ") to ";

  public static final String NAME = "name";
  public static final String TARGET_COLUMNS = "target columns";
  public static final String ON_UPDATE = "on update";
  public static final String ON_DELETE = "on delete";

  /** The word for an action that the user who asked may not see. */
  public static final String NOT_READABLE = "not readable";

  public static final String MORE = "more";

  public ForeignKey {
    columns = List.copyOf(columns);
    targetColumns = List.copyOf(targetColumns);
  }

  /** One without a comment. */
  public ForeignKey(
      Optional<String> name,
      String knownAs,
      List<String> columns,
      String table,
      List<String> targetColumns,
      String onUpdate,
      String onDelete,
      String more) {
    this(name, knownAs, columns, table, targetColumns, onUpdate, onDelete, more, "");
  }

  /** The table that an element of this kind points to, by the element's name. */
  public static String target(Element key) {
    String name = key.name();
    return withoutNumber(name.substring(name.indexOf(BETWEEN) + BETWEEN.length()));
  }

  /** A name without the number of its place among several that are made of the same. */
  private static String withoutNumber(String name) {
    int end = name.length();
    while (end > 0 && name.charAt(end - 1) >= '0' && name.charAt(end - 1) <= '9') {
      end--;
    }
    boolean numbered = end < name.length() && name.startsWith(" #", end - 2);
    return numbered ? name.substring(0, end - 2) : name;
  }

  /** One whose name nobody chose, with nothing more to say of it. */
  public static ForeignKey unnamed(
      List<String> columns,
      String table,
      List<String> targetColumns,
      String onUpdate,
      String onDelete) {
    return new ForeignKey(
        Optional.empty(), "", columns, table, targetColumns, onUpdate, onDelete, "");
  }

  Element element() {
    Map<String, String> facts =
        Facts.with(
            Map.of(),
            Element.GENERATED_NAME,
            name.isPresent() ? "" : knownAs,
            NAME,
            name.orElse(""),
            TARGET_COLUMNS,
            targetColumns.isEmpty() ? "" : "(" + NameList.write(targetColumns) + ")",
            ON_UPDATE,
            onUpdate.equals("NO ACTION") ? "" : onUpdate,
            ON_DELETE,
            onDelete.equals("NO ACTION") ? "" : onDelete,
            MORE,
            more,
            Column.COMMENT,
            comment);
    String words = "(" + NameList.write(columns) + BETWEEN + table;
    return new Element(Kind.FOREIGN_KEY, words, facts, List.of());
  }
}
