package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;

/**
 * A reference to another table.
 *
 * @param chosenName the explicit name; empty if the engine generated one
 * @param knownAs the name that the engine knows it by, chosen or not; empty if it has none
 * @param target the table that it points to
 * @param targetColumns empty where the target's primary key is meant
 * @param onUpdate the action's words, such as NO ACTION
 * @param onDelete likewise
 * @param more what else is said of it, such as DEFERRABLE; empty if nothing
 * @param comment empty if it has none
 * @param written the actions as statements must write them; empty where they say it themselves
 */
public record ForeignKey(
    Optional<String> chosenName,
    String knownAs,
    List<String> columns,
    ObjectId target,
    List<String> targetColumns,
    String onUpdate,
    String onDelete,
    String more,
    String comment,
    String written)
    implements Part {
  public static final String TARGET_COLUMNS = "target columns";
  public static final String ON_UPDATE = "on update";
  public static final String ON_DELETE = "on delete";

  /** The word for an action that the user who asked may not see. */
  public static final String NOT_READABLE = "not readable";

  public static final String MORE = "more";

  private static final String NO_ACTION = "NO ACTION";

  public ForeignKey {
    knownAs = chosenName.orElse(knownAs);
    columns = List.copyOf(columns);
    targetColumns = List.copyOf(targetColumns);
  }

  /** One of which its parts say all. */
  public ForeignKey(
      Optional<String> chosenName,
      String knownAs,
      List<String> columns,
      ObjectId target,
      List<String> targetColumns,
      String onUpdate,
      String onDelete,
      String more) {
    this(chosenName, knownAs, columns, target, targetColumns, onUpdate, onDelete, more, "", "");
  }

  /** One without an explicit name, deferral or comment. */
  public static ForeignKey unnamed(
      List<String> columns,
      ObjectId target,
      List<String> targetColumns,
      String onUpdate,
      String onDelete) {
    return new ForeignKey(
        Optional.empty(), "", columns, target, targetColumns, onUpdate, onDelete, "");
  }

  static ForeignKey of(Map<String, String> facts) {
    Optional<String> chosen = Optional.ofNullable(facts.get(Facts.NAME));
    return new ForeignKey(
        chosen,
        chosen.orElse(facts.getOrDefault(Facts.GENERATED_NAME, "")),
        NameList.inParentheses(facts.getOrDefault(Facts.COLUMNS, "()")),
        ObjectId.of(
            Kind.TABLE,
            facts.getOrDefault(Facts.TARGET_SCHEMA, ""),
            facts.getOrDefault(Facts.TARGET, "")),
        NameList.inParentheses(facts.getOrDefault(TARGET_COLUMNS, "()")),
        facts.getOrDefault(ON_UPDATE, NO_ACTION),
        facts.getOrDefault(ON_DELETE, NO_ACTION),
        facts.getOrDefault(MORE, ""),
        facts.getOrDefault(Facts.COMMENT, ""),
        facts.getOrDefault(Facts.TEXT, ""));
  }

  @Override
  public Kind kind() {
    return Kind.FOREIGN_KEY;
  }

  /** The same, its actions to be written in other words. */
  public ForeignKey writtenAs(String actions) {
    return new ForeignKey(
        chosenName,
        knownAs,
        columns,
        target,
        targetColumns,
        onUpdate,
        onDelete,
        more,
        comment,
        actions);
  }

  /** The name of the table that it points to. */
  public String table() {
    return target.displayName();
  }

  /** What it connects, such as {@code (bin_id) to bin}: it is matched by that. */
  @Override
  public String name() {
    return "(" + NameList.write(columns) + ") to " + table();
  }

  /** The name that the engine knows it by; empty if it has none. */
  public Optional<String> knownName() {
    return Optional.of(knownAs).filter(name -> !name.isEmpty());
  }

  @Override
  public boolean isHidden() {
    return onDelete.equals(NOT_READABLE);
  }

  @Override
  public List<Dependency> dependsOn() {
    return List.of();
  }

  @Override
  public SortedMap<String, String> facts() {
    return Facts.with(
        Map.of(),
        Facts.GENERATED_NAME,
        chosenName.isPresent() ? "" : knownAs,
        Facts.NAME,
        chosenName.orElse(""),
        Facts.COLUMNS,
        "(" + NameList.write(columns) + ")",
        Facts.TARGET,
        target.name(),
        Facts.TARGET_SCHEMA,
        target.schema(),
        TARGET_COLUMNS,
        targetColumns.isEmpty() ? "" : "(" + NameList.write(targetColumns) + ")",
        ON_UPDATE,
        onUpdate.equals(NO_ACTION) ? "" : onUpdate,
        ON_DELETE,
        onDelete.equals(NO_ACTION) ? "" : onDelete,
        MORE,
        more,
        Facts.COMMENT,
        comment,
        Facts.TEXT,
        written);
  }
}
