package org.wornladder.project;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import java.io.StringWriter;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.LongConsumer;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** A seed whose rows are documents: each keeps its fields with their types, and what is nested. */
public final class SeedDocuments implements DocumentSource {
  private static final JsonFactory FACTORY = new JsonFactory();

  private final SeedSource source;
  private final Seed seed;

  private SeedDocuments(SeedSource source, Seed seed) {
    this.source = source;
    this.seed = seed;
  }

  /**
   * @param onRead receives the number of bytes, as they are read
   * @throws ProjectException if a file of that form holds no documents
   */
  public static SeedDocuments of(Path root, Seed seed, LongConsumer onRead) {
    if (seed.form() != Seed.Form.JSON && seed.form() != Seed.Form.YAML) {
      throw ProjectException.of(
          seed.place(),
          "a document database takes seeds of JSON and YAML, and " + seed.file() + " is neither",
          "write the documents as a JSON array of objects, or as a YAML list of maps");
    }
    return new SeedDocuments(new SeedSource(root, seed.file(), onRead), seed);
  }

  @Override
  public <E extends Exception> void each(Visitor<E> visitor) throws E {
    if (seed.form() == Seed.Form.JSON) {
      eachOfJson(visitor);
    } else {
      eachOfYaml(visitor);
    }
  }

  private <E extends Exception> void eachOfJson(Visitor<E> visitor) throws E {
    JsonSeed.<E>parse(
        source,
        parser -> {
          int line = parser.currentTokenLocation().getLineNr();
          StringWriter text = new StringWriter();
          try (JsonGenerator out = FACTORY.createGenerator(text)) {
            out.copyCurrentStructureExact(parser);
          }
          visitor.document(line, text.toString());
        });
  }

  private <E extends Exception> void eachOfYaml(Visitor<E> visitor) throws E {
    Problems problems = new Problems();
    Optional<YamlNode> tree =
        source.text(problems).flatMap(text -> YamlReader.read(source.file(), text, problems));
    if (tree.isPresent() && !(tree.get() instanceof YamlNode.Items)) {
      problems.error(
          tree.get().place(), "the documents must be a list of maps", "begin each with a -");
    }
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    if (tree.isPresent()) {
      for (YamlNode item : ((YamlNode.Items) tree.get()).items()) {
        if (!(item instanceof YamlNode.Entries)) {
          throw ProjectException.of(
              item.place(), "a document must be a map of fields", "write field: value");
        }
        visitor.document(item.place().line(), NestedJson.of(item));
      }
    }
  }

  @Override
  public Place place(int line) {
    return source.place(line);
  }

  @Override
  public String fingerprint() {
    return source.fingerprint();
  }
}
