package org.wornladder.seed;

import java.util.List;
import java.util.StringJoiner;
import org.wornladder.project.DocumentSource;
import org.wornladder.project.JsonText;
import org.wornladder.project.Sample;
import org.wornladder.project.Sample.Maker;
import org.wornladder.project.SeedRow;
import org.wornladder.sql.Place;

/**
 * Documents that are made up: a field for each column of a sample, none where its value is missing.
 *
 * @param rows the values; those taken from documents are relaxed Extended JSON
 */
record SampleDocuments(Sample sample, SampleRows rows) implements DocumentSource {
  @Override
  public <E extends Exception> void each(Visitor<E> visitor) throws E {
    rows.<E>each(row -> visitor.document((int) row.position(), json(row)));
  }

  private String json(SeedRow row) {
    List<Sample.Column> columns = sample.columns();
    StringJoiner fields = new StringJoiner(", ", "{", "}");
    for (int i = 0; i < columns.size(); i++) {
      if (!row.isNull(i)) {
        String value = value(columns.get(i).maker(), row.text(i));
        fields.add(JsonText.string(columns.get(i).name()) + ": " + value);
      }
    }
    return fields.toString();
  }

  /** How a value is made says its type: no collection does. */
  private String value(Maker maker, String text) {
    if (maker instanceof Maker.Earlier earlier) {
      return sample.columns().stream()
          .filter(column -> column.name().equals(earlier.column()))
          .findFirst()
          .map(column -> value(column.maker(), text))
          .orElse(JsonText.string(text));
    }
    boolean json =
        maker instanceof Maker.From
            || maker instanceof Maker.ListOf
            || maker instanceof Maker.MapOf
            || maker instanceof Maker.Between
            || maker instanceof Maker.CountFrom
            || maker instanceof Maker.Formula;
    if (json) {
      return text;
    }
    boolean either = maker instanceof Maker.Value || maker instanceof Maker.OneOf;
    return either ? JsonText.plainOrString(text) : JsonText.string(text);
  }

  @Override
  public Place place(int line) {
    return rows.place(line);
  }

  @Override
  public String fingerprint() {
    return rows.fingerprint();
  }
}
