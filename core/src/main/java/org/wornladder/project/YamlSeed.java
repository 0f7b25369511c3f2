package org.wornladder.project;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.ProjectException;

/** Rows as YAML: a list of maps. */
final class YamlSeed extends FileSeed {
  private final List<SeedRow> rows;

  private YamlSeed(SeedSource source, List<String> columns, List<SeedRow> rows) {
    super(source, columns);
    this.rows = rows;
  }

  static YamlSeed open(SeedSource source) {
    Problems problems = new Problems();
    Optional<YamlNode> tree =
        source.text(problems).flatMap(text -> YamlReader.read(source.file(), text, problems));
    if (tree.isPresent() && !(tree.get() instanceof YamlNode.Items)) {
      problems.error(tree.get().place(), "the rows must be a list of maps", "begin each with a -");
    }
    List<YamlNode.Entries> maps = new ArrayList<>();
    if (tree.isPresent() && tree.get() instanceof YamlNode.Items list) {
      list.items().forEach(item -> take(item, maps, problems));
    }
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    Set<String> names = new LinkedHashSet<>();
    maps.forEach(map -> names.addAll(map.entries().keySet()));
    List<String> columns = SeedHeader.check(source.place(), names.toArray(String[]::new));
    return new YamlSeed(source, columns, maps.stream().map(map -> row(map, columns)).toList());
  }

  private static void take(YamlNode item, List<YamlNode.Entries> maps, Problems problems) {
    if (item instanceof YamlNode.Entries map) {
      maps.add(map);
    } else {
      problems.error(item.place(), "a row must be a map of columns", "write column: value");
    }
  }

  private static SeedRow row(YamlNode.Entries map, List<String> columns) {
    String[] values = new String[columns.size()];
    Set<Integer> leftOut = new HashSet<>();
    for (int i = 0; i < values.length; i++) {
      if (!map.entries().containsKey(columns.get(i))) {
        leftOut.add(i);
      }
    }
    for (Map.Entry<String, YamlNode.Entry> entry : map.entries().entrySet()) {
      values[columns.indexOf(entry.getKey())] = text(entry.getValue().value());
    }
    long position = SeedSource.position(map.place().line(), map.place().column());
    return new SeedRow(position, leftOut, values);
  }

  private static String text(YamlNode value) {
    if (value instanceof YamlNode.Scalar scalar) {
      return scalar.isNull() ? null : scalar.text();
    }
    return NestedJson.of(value);
  }

  @Override
  public Set<String> optional() {
    Set<String> optional = new HashSet<>();
    for (int i = 0; i < columns().size(); i++) {
      int column = i;
      if (rows.stream().anyMatch(row -> row.isLeftOut(column))) {
        optional.add(columns().get(i));
      }
    }
    return optional;
  }

  @Override
  public <E extends Exception> void each(Visitor<E> visitor) throws E {
    for (SeedRow row : rows) {
      visitor.row(row);
    }
  }
}
