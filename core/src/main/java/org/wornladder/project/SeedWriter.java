package org.wornladder.project;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.util.DefaultIndenter;
import com.fasterxml.jackson.core.util.DefaultPrettyPrinter;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;
import org.yaml.snakeyaml.DumperOptions;
import org.yaml.snakeyaml.Yaml;

/**
 * Writes rows as a seed file, in the form that its ending says: CSV by RFC 4180 with a header of
 * column names, an empty unquoted field for NULL and {@code ""} for an empty text; JSON; or YAML.
 */
public final class SeedWriter implements AutoCloseable {
  private final Path path;
  private final Path part;
  private final Writer out;
  private final Form form;
  private final Seed seed;

  /**
   * A column.
   *
   * @param isPlain whether its values are numbers or truth values, which need no quotes
   */
  public record Column(String name, boolean isPlain) {}

  private interface Form {
    void row(List<Optional<String>> values) throws IOException;

    void end() throws IOException;
  }

  private SeedWriter(Path path, Seed seed, List<Column> columns) throws IOException {
    this.path = path;
    this.seed = seed;
    part = path.resolveSibling(path.getFileName() + ".part");
    Files.createDirectories(path.getParent());
    out = Files.newBufferedWriter(part);
    form =
        switch (seed.form()) {
          case JSON -> new Json(out, columns);
          case YAML -> new YamlList(out, columns);
          default -> new Csv(out, columns);
        };
  }

  /**
   * Begins a file; one that is there already stays until {@link #finish}.
   *
   * @throws ProjectException if it cannot be written
   */
  public static SeedWriter begin(Path root, Seed seed, List<Column> columns) {
    new TextFiles(root).refuseOutside(seed.file());
    try {
      return new SeedWriter(root.resolve(seed.file()), seed, columns);
    } catch (IOException e) {
      throw unwritable(seed, e);
    }
  }

  /** The place of a table's rows as CSV. */
  public static String csvFile(String table) {
    return Seed.FOLDER + "/" + SchemaWriter.fileName(table) + Seed.Form.CSV.ending();
  }

  public void row(List<Optional<String>> values) {
    try {
      form.row(values);
    } catch (IOException e) {
      throw unwritable(seed, e);
    }
  }

  /** Puts the file in its place. */
  public void finish() {
    try {
      form.end();
      out.close();
      Files.move(part, path, StandardCopyOption.ATOMIC_MOVE);
    } catch (IOException e) {
      throw unwritable(seed, e);
    }
  }

  @Override
  public void close() {
    try (out) {
      Files.deleteIfExists(part);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static ProjectException unwritable(Seed seed, IOException e) {
    return ProjectException.of(
        Place.of(seed.file()), "the file cannot be written: " + TextFiles.reason(e), "");
  }

  private record Csv(Writer out) implements Form {
    Csv(Writer out, List<Column> columns) throws IOException {
      this(out);
      row(columns.stream().map(column -> Optional.of(column.name())).toList());
    }

    @Override
    public void row(List<Optional<String>> values) throws IOException {
      List<String> fields = new ArrayList<>();
      for (Optional<String> value : values) {
        fields.add(value.map(Csv::field).orElse(""));
      }
      out.write(String.join(",", fields));
      out.write('\n');
    }

    private static String field(String value) {
      boolean plain = !value.isEmpty() && value.chars().noneMatch(c -> ",\"\r\n".indexOf(c) >= 0);
      return plain ? value : "\"" + value.replace("\"", "\"\"") + "\"";
    }

    @Override
    public void end() {}
  }

  private record Json(JsonGenerator generator, List<Column> columns) implements Form {
    Json(Writer out, List<Column> columns) throws IOException {
      this(new JsonFactory().createGenerator(out), columns);
      generator.setPrettyPrinter(
          new DefaultPrettyPrinter().withArrayIndenter(new DefaultIndenter("  ", "\n")));
      generator.writeStartArray();
    }

    @Override
    public void row(List<Optional<String>> values) throws IOException {
      generator.writeStartObject();
      for (int i = 0; i < columns.size(); i++) {
        generator.writeFieldName(columns.get(i).name());
        if (values.get(i).isEmpty()) {
          generator.writeNull();
        } else if (columns.get(i).isPlain()) {
          generator.writeRawValue(values.get(i).get());
        } else {
          generator.writeString(values.get(i).get());
        }
      }
      generator.writeEndObject();
    }

    @Override
    public void end() throws IOException {
      generator.writeEndArray();
      generator.writeRaw('\n');
      generator.flush();
    }
  }

  private record YamlList(Writer out, List<Column> columns) implements Form {
    @Override
    public void row(List<Optional<String>> values) throws IOException {
      DumperOptions options = new DumperOptions();
      options.setDefaultFlowStyle(DumperOptions.FlowStyle.BLOCK);
      options.setWidth(Integer.MAX_VALUE);
      Map<String, Object> row = new LinkedHashMap<>();
      for (int i = 0; i < columns.size(); i++) {
        boolean plain = columns.get(i).isPlain();
        row.put(columns.get(i).name(), values.get(i).map(text -> value(text, plain)).orElse(null));
      }
      out.write(new Yaml(options).dump(List.of(row)));
    }

    /** What needs no quotes is given as what it is. */
    private static Object value(String text, boolean plain) {
      if (!plain) {
        return text;
      }
      return text.equals("true") || text.equals("false")
          ? Boolean.valueOf(text)
          : new BigDecimal(text);
    }

    @Override
    public void end() {}
  }
}
