package org.wornladder.engine.h2;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.change.Difference;
import org.wornladder.engine.SqlDdl;
import org.wornladder.schema.Column;
import org.wornladder.schema.Element;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Kind;
import org.wornladder.sql.Dialects;

/** Writes structures for H2 (H2 documentation, "Commands"). */
final class H2Ddl extends SqlDdl {
  private static final String INDEX = " INDEX";

  static final String ON_UPDATE = "on update";

  /** What a column is of; its type is the one that this depends on. */
  static final String DOMAIN = "domain";

  static final String INVISIBLE = "invisible";
  static final String ON_NULL = "default on null";

  H2Ddl() {
    super(Dialects.H2, H2Engine.QUOTING, Letters.CAPITAL);
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
    text.append(' ').append(typeOf(column));
    column.fact(INVISIBLE).ifPresent(yes -> text.append(" INVISIBLE"));
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
    column.fact(ON_UPDATE).ifPresent(value -> text.append(" ON UPDATE ").append(value));
    column.fact(ON_NULL).ifPresent(yes -> text.append(" DEFAULT ON NULL"));
    return text + (isNullable(column) ? "" : " NOT NULL");
  }

  private static String typeOf(Element column) {
    return column.fact(DOMAIN).or(() -> column.fact(TYPE)).orElse("");
  }

  /** A name that H2 invented it may need for another key, and that cannot be known beforehand. */
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
  protected String keyThing(Element key, String table) {
    return key.kind() == Kind.INDEX
        ? super.keyThing(key, table)
        : "CONSTRAINT " + name(known(key).orElse(""));
  }

  @Override
  protected List<String> addition(String table, Element column) {
    List<String> statements = new ArrayList<>(super.addition(table, column));
    statements.addAll(comment(columnName(table, column.name()), column));
    return statements;
  }

  @Override
  public boolean refusesToDropWhatIsUsed() {
    return true;
  }

  @Override
  protected Optional<List<String>> tableChange(Difference difference) {
    for (Difference.FactChange fact : difference.facts()) {
      if (!fact.name().equals(Column.COMMENT)) {
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
  protected Optional<List<String>> otherChange(Difference.FactChange fact, String start) {
    Optional<String> after = fact.after();
    return switch (fact.name()) {
      case DOMAIN -> after.map(domain -> List.of(start + "SET DATA TYPE " + domain));
      case INVISIBLE ->
          Optional.of(List.of(start + (after.isPresent() ? "SET INVISIBLE" : "SET VISIBLE")));
      case ON_NULL ->
          Optional.of(List.of(start + (after.isPresent() ? "SET" : "DROP") + " DEFAULT ON NULL"));
      case ON_UPDATE ->
          Optional.of(
              List.of(start + after.map(now -> "SET ON UPDATE " + now).orElse("DROP ON UPDATE")));
      default -> Optional.empty();
    };
  }

  @Override
  protected String retyping(Element column) {
    return "SET DATA TYPE " + typeOf(column);
  }

  @Override
  protected Optional<String> keyDrop(Element key, String table) {
    return key.kind() == Kind.PRIMARY_KEY
        ? Optional.of("ALTER TABLE " + name(table) + " DROP PRIMARY KEY")
        : super.keyDrop(key, table);
  }
}
