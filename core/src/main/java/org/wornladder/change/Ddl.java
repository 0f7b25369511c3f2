package org.wornladder.change;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.schema.Element;
import org.wornladder.schema.Snapshot;
import org.wornladder.sql.Dialect;

/** How one engine writes structures as SQL. Pure: no database is asked. */
public interface Ddl {
  Dialect dialect();

  /**
   * The statements that make an object, without end marks; none where they cannot be written.
   *
   * @param element one that is not part of a table
   */
  Creation create(Element element);

  /**
   * The statements that make, change or take away what differs, without end marks; empty where they
   * cannot be written.
   */
  Optional<List<String>> change(Difference difference);

  /** The names by which statements speak of an object, without its schema. */
  Set<String> names(Element element);

  /** Whether the engine refuses to drop or reshape what a view speaks of. */
  default boolean refusesToDropWhatIsUsed() {
    return false;
  }

  /**
   * The statements that give an object back what is lost when it is made anew: its owner and what
   * others may do with it.
   *
   * @param standing what was there before, owners and grants among it
   */
  default List<String> rights(Element element, List<Element> standing) {
    return List.of();
  }

  /**
   * The tables from which a table has a column: what is done to the column there is done to it
   * here.
   *
   * @param column what differs in it
   * @param standing what is there before the change
   */
  default List<String> origins(Difference column, Snapshot standing) {
    return List.of();
  }

  /**
   * Statements that go before a script that makes some objects, such as settings of the session.
   */
  default List<String> preamble(Collection<Element> elements) {
    return List.of();
  }

  /**
   * How an object is made.
   *
   * @param make makes it
   * @param then needs the object alone, and nothing of what others need of it
   * @param last needs all other objects
   */
  record Creation(List<String> make, List<String> then, List<String> last) {
    public static final Creation NONE = new Creation(List.of(), List.of(), List.of());

    public Creation {
      make = List.copyOf(make);
      then = List.copyOf(then);
      last = List.copyOf(last);
    }

    /** All statements in an order that runs where all other objects are there. */
    public List<String> all() {
      List<String> all = new ArrayList<>(make);
      all.addAll(then);
      all.addAll(last);
      return List.copyOf(all);
    }
  }
}
