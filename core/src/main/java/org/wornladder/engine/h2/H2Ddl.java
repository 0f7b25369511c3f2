package org.wornladder.engine.h2;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.wornladder.diff.Difference;
import org.wornladder.engine.SqlDdl;
import org.wornladder.schema.Column;
import org.wornladder.schema.Element;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Kind;
import org.wornladder.sql.Dialects;

/** Writes structures for H2 (H2 documentation, "Commands"). */
final class H2Ddl extends SqlDdl {
  private static final Pattern PLAIN = Pattern.compile("[A-Z_][A-Z0-9_]*");

  private static final String INDEX = " INDEX";

  H2Ddl() {
    super(Dialects.H2, H2Engine.QUOTING, PLAIN);
  }

  @Override
  protected Creation table(Element table) {
    List<String> then = new ArrayList<>();
    List<String> last = new ArrayList<>();
    for (Element part : table.parts()) {
      if (part.kind() == Kind.INDEX) {
        then.add(index(part, table.name()));
      } else if (part.kind() == Kind.FOREIGN_KEY) {
        last.add("ALTER TABLE " + name(table.name()) + " ADD " + constraint(part, table.name()));
      }
    }
    last.addAll(comments(table));
    String inside = lines(parts(table, Kind.FOREIGN_KEY));
    return new Creation(List.of("CREATE TABLE " + name(table.name()) + inside), then, last);
  }

  @Override
  protected List<String> aside(Element element) {
    return comment(word(element.kind()) + " " + name(element.name()), element);
  }

  private static String word(Kind kind) {
    return kind == Kind.FUNCTION || kind == Kind.PROCEDURE ? "ALIAS" : sqlWord(kind);
  }

  @Override
  protected Optional<String> drop(Element element) {
    return element.kind() == Kind.OTHER
        ? Optional.empty()
        : Optional.of("DROP " + word(element.kind()) + " " + name(element.name()));
  }

  @Override
  protected String column(Element column) {
    StringBuilder text = new StringBuilder(name(column.name()));
    text.append(' ').append(column.fact(TYPE).orElse(""));
    computed(column).ifPresent(how -> text.append(" GENERATED ALWAYS AS ").append(how));
    column
        .fact(Column.IDENTITY)
        .ifPresent(
            how ->
                text.append(" GENERATED ")
                    .append(how.startsWith("always") ? "ALWAYS" : "BY DEFAULT")
                    .append(" AS IDENTITY")
                    .append(how.contains("(") ? how.substring(how.indexOf('(')) : ""));
    column.fact(DEFAULT).ifPresent(value -> text.append(" DEFAULT ").append(value));
    column.fact("on update").ifPresent(value -> text.append(" ON UPDATE ").append(value));
    return text + (isNullable(column) ? "" : " NOT NULL");
  }

  /** A name that H2 invented it may need for another key, and nobody can tell it beforehand. */
  @Override
  protected Optional<String> lasting(Element constraint) {
    return constraint.fact(ForeignKey.NAME);
  }

  @Override
  protected String index(Element index, String table) {
    String definition = index.fact(Element.DEFINITION).orElse("");
    int at = definition.indexOf(INDEX) + INDEX.length();
    return definition.substring(0, at)
        + " "
        + name(index.name())
        + " ON "
        + name(table)
        + definition.substring(at);
  }

  @Override
  public boolean refusesToDropWhatIsUsed() {
    return true;
  }

  @Override
  protected Optional<List<String>> tableChange(Difference difference) {
    for (Difference.FactChange fact : difference.facts()) {
      if (!fact.word().equals(Column.COMMENT)) {
        return Optional.empty();
      }
    }
    String words = difference.after().orElseThrow().fact(Column.COMMENT).orElse("");
    return Optional.of(
        List.of("COMMENT ON TABLE " + name(difference.name()) + " IS " + text(words)));
  }

  @Override
  protected Optional<List<String>> columnChange(Difference difference, String alter) {
    return alteration(difference, alter);
  }

  @Override
  protected String retyping(Element column) {
    return "SET DATA TYPE " + column.fact(TYPE).orElse("");
  }

  @Override
  protected Optional<String> keyDrop(Element key, String table) {
    return key.kind() == Kind.PRIMARY_KEY
        ? Optional.of("ALTER TABLE " + name(table) + " DROP PRIMARY KEY")
        : super.keyDrop(key, table);
  }
}
