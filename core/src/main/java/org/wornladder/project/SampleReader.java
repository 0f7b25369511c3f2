package org.wornladder.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.IllformedLocaleException;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** Reads how rows are made up: a file that ends in {@code .sample.yaml}. */
public final class SampleReader {
  private static final Pattern COUNT = Pattern.compile("(\\d{1,9})(?:\\.\\.(\\d{1,9}))?");

  private final String file;
  private final Problems problems;
  private final MakerReader makers;

  private SampleReader(String file, Problems problems) {
    this.file = file;
    this.problems = problems;
    makers = new MakerReader(problems);
  }

  /**
   * Reads one.
   *
   * @throws ProjectException with every error in it
   */
  public static Sample read(Path root, Seed seed) {
    Problems problems = new Problems();
    Optional<YamlNode> tree =
        new TextFiles(root)
            .read(seed.file(), problems)
            .flatMap(text -> YamlReader.read(seed.file(), text, problems));
    Optional<Sample> sample = Optional.empty();
    if (tree.isPresent() && tree.get() instanceof YamlNode.Entries map) {
      sample = Optional.of(new SampleReader(seed.file(), problems).sample(map));
    } else if (tree.isPresent()) {
      problems.error(tree.get().place(), "the file must be a map", "write rows: and columns:");
    }
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    return sample.orElseThrow();
  }

  private Sample sample(YamlNode.Entries map) {
    Fields fields = new Fields(map, problems);
    Optional<Template> rows = fields.text("rows");
    Optional<Template> forEach = fields.text("for-each");
    Optional<Template> number = fields.text("seed-number");
    Optional<Template> locale = fields.text("locale");
    YamlNode.Entries columns = fields.map("columns");
    fields.end();
    long[] counts = counts(rows, map.place());
    List<Sample.Column> made = new ArrayList<>();
    for (Map.Entry<String, YamlNode.Entry> entry : columns.entries().entrySet()) {
      makers.column(entry.getKey(), entry.getValue().value()).ifPresent(made::add);
    }
    if (made.isEmpty() && !problems.hasErrors()) {
      problems.error(map.place(), "no column is named", "write columns: and how each is made");
    }
    made.forEach(column -> refuseUnknown(column, made));
    return new Sample(
        file,
        counts[0],
        counts[1],
        forEach.flatMap(text -> makers.from(text.text(), text.place())),
        number.map(text -> makers.whole(text.text(), text.place())).orElse(1L),
        locale.map(this::locale).orElse(Locale.ENGLISH),
        made);
  }

  private void refuseUnknown(Sample.Column column, List<Sample.Column> all) {
    List<String> names = all.stream().map(Sample.Column::name).toList();
    List<String> meant = new ArrayList<>(column.maker().needs());
    if (column.maker() instanceof Sample.Maker.Earlier earlier) {
      meant.add(earlier.column());
    }
    for (String name : meant) {
      if (!names.contains(name)) {
        problems.error(
            column.place(),
            column.name() + " is made from " + name + ", which is not among the columns",
            NearestWord.advice(name, names));
      }
    }
  }

  private Locale locale(Template text) {
    try {
      return new Locale.Builder().setLanguageTag(text.text().replace('_', '-')).build();
    } catch (IllformedLocaleException e) {
      problems.error(text.place(), "'" + text.text() + "' is not a locale", "write de, or fr-CA");
      return Locale.ENGLISH;
    }
  }

  private long[] counts(Optional<Template> rows, Place place) {
    Matcher parts = COUNT.matcher(rows.map(Template::text).orElse(""));
    if (!parts.matches()) {
      problems.error(
          rows.map(Template::place).orElse(place),
          "rows does not say how many",
          "write rows: 200, or rows: 1..8 with for-each:");
      return new long[] {0, 0};
    }
    long least = Long.parseLong(parts.group(1));
    long most = Optional.ofNullable(parts.group(2)).map(Long::parseLong).orElse(least);
    return new long[] {Math.min(least, most), Math.max(least, most)};
  }
}
