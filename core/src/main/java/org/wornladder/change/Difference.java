package org.wornladder.change;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Described;
import org.wornladder.schema.Facts;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;

/**
 * One object, or part of an object, in which two structures differ. An object that is there on one
 * side only means all its parts.
 *
 * @param owner the object that it is part of; empty for an object that stands by itself
 * @param before empty if it was not there
 * @param after empty if it is not there any more
 */
public record Difference(
    Optional<ObjectId> owner, Optional<Described> before, Optional<Described> after) {
  private static final Comparator<String> TYPE_FIRST =
      Comparator.comparing((String word) -> !word.equals("type"))
          .thenComparing(Comparator.naturalOrder());

  /** What became of an object. */
  public enum Change {
    ADDED,
    REMOVED,
    CHANGED
  }

  /** A fact that is not the same on both sides; empty where it is not set. */
  public record FactChange(String name, Optional<String> before, Optional<String> after) {}

  /** One of objects that stand by themselves. */
  static Difference of(
      Optional<? extends DatabaseObject> before, Optional<? extends DatabaseObject> after) {
    return new Difference(Optional.empty(), before.map(one -> one), after.map(one -> one));
  }

  /** The side that is there: the second, if both are. */
  public Described either() {
    return after.or(() -> before).orElseThrow();
  }

  /** The same with other texts in the definitions. */
  public Difference map(UnaryOperator<String> texts) {
    return new Difference(
        owner, before.map(one -> map(one, texts)), after.map(one -> map(one, texts)));
  }

  private static Described map(Described one, UnaryOperator<String> texts) {
    return one instanceof Part part ? part.map(texts) : ((DatabaseObject) one).map(texts);
  }

  /** The same seen from the other side. */
  public Difference reversed() {
    return new Difference(owner, after, before);
  }

  public Kind kind() {
    return either().kind();
  }

  public String name() {
    return either().name();
  }

  /** The name of the table, or of another object, that it is part of; empty if it is not. */
  public String table() {
    return owner.map(ObjectId::displayName).orElse("");
  }

  /** The name with the owner's in front, where it is part of one. */
  public String fullName() {
    return owner.isEmpty()
        ? name()
        : name().startsWith("(") ? table() + " " + name() : table() + "." + name();
  }

  /** What it is and its full name, such as {@code column bin.code}. */
  public String description() {
    return kind().label() + " " + fullName();
  }

  public Change change() {
    return before.isEmpty() ? Change.ADDED : after.isEmpty() ? Change.REMOVED : Change.CHANGED;
  }

  /**
   * The facts that differ and count, the type first; all of them where it is there on one side
   * only.
   */
  public List<FactChange> facts() {
    TreeSet<String> words = new TreeSet<>(TYPE_FIRST);
    before.ifPresent(one -> words.addAll(one.facts().keySet()));
    after.ifPresent(one -> words.addAll(one.facts().keySet()));
    words.removeIf(word -> !Facts.counts(word));
    List<FactChange> changes = new ArrayList<>();
    for (String word : words) {
      Optional<String> was = before.flatMap(one -> one.fact(word));
      Optional<String> is = after.flatMap(one -> one.fact(word));
      if (!was.equals(is)) {
        changes.add(new FactChange(word, was, is));
      }
    }
    return changes;
  }
}
