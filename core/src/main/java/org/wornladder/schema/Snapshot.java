package org.wornladder.schema;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import org.wornladder.sql.Fingerprint;

/**
 * A database's structure at one moment: equal structures are equal snapshots.
 *
 * @param objects by kind and name
 * @param unseen the kinds of objects of which the user who asked may not see all that are there; no
 *     part of what is kept
 */
public record Snapshot(List<DatabaseObject> objects, Set<Kind> unseen) {
  private static final Comparator<DatabaseObject> BY_ID = Comparator.comparing(DatabaseObject::id);

  public static final Snapshot EMPTY = new Snapshot(List.of());

  public Snapshot {
    objects = objects.stream().sorted(BY_ID).toList();
    unseen = Set.copyOf(unseen);
  }

  /** One of which all is seen. */
  public Snapshot(List<? extends DatabaseObject> objects) {
    this(List.copyOf(objects), Set.of());
  }

  /**
   * The kinds of objects of which the user who asked may not see all, in words such as {@code
   * events}, in the order in which a structure lists them; without owners and grants.
   */
  public List<String> unseenKinds() {
    return unseen.stream().filter(kind -> !kind.isRight()).sorted().map(Kind::plural).toList();
  }

  /** The same as JSON, always the same text for the same structure; see {@link SnapshotJson}. */
  public String json() {
    return SnapshotJson.write(this);
  }

  /** Whether a text was written by this version of {@link #json}. */
  public static boolean isOfThisVersion(String json) {
    return json.startsWith(EMPTY.json().substring(0, EMPTY.json().indexOf('[')));
  }

  /** The snapshot of a text that {@link #json} wrote; empty if it is none. */
  public static Optional<Snapshot> read(String json) {
    return SnapshotJson.read(json);
  }

  /** The fingerprint of what counts in comparisons: without owners, grants and generated names. */
  public String meaningFingerprint() {
    return fingerprint(withoutRights().objects, Described::meaning);
  }

  /**
   * SHA-256 over the whole structure but its dependencies, which follow from it, as 64 hexadecimal
   * digits: the format's version, and then each object's kind, name, facts and parts in order, each
   * object in braces.
   */
  public String fingerprint() {
    return fingerprint(objects, Described::facts);
  }

  private static String fingerprint(
      List<DatabaseObject> objects, Function<Described, SortedMap<String, String>> facts) {
    Fingerprint.Parts hash = new Fingerprint.Parts();
    hash.add(Integer.toString(SnapshotJson.VERSION));
    add(objects, facts, hash);
    return hash.hex();
  }

  private static void add(
      List<? extends Described> all,
      Function<Described, SortedMap<String, String>> facts,
      Fingerprint.Parts hash) {
    for (Described one : all) {
      hash.mark("{" + one.kind().label() + "=");
      hash.add(one.name());
      facts
          .apply(one)
          .forEach(
              (name, value) -> {
                hash.add(name);
                hash.add(value);
              });
      add(one.parts(), facts, hash);
      hash.mark("}");
    }
  }

  /** The same without the objects of a kind. */
  public Snapshot without(Kind kind) {
    return new Snapshot(objects.stream().filter(object -> object.kind() != kind).toList(), unseen);
  }

  /** The object of an identity; empty if it is not there. */
  public Optional<DatabaseObject> object(ObjectId id) {
    int low = 0;
    int high = objects.size() - 1;
    while (low <= high) {
      int middle = (low + high) >>> 1;
      int order = objects.get(middle).id().compareTo(id);
      if (order == 0) {
        return Optional.of(objects.get(middle));
      }
      if (order < 0) {
        low = middle + 1;
      } else {
        high = middle - 1;
      }
    }
    return Optional.empty();
  }

  /** The same with other texts in the facts of its objects. */
  public Snapshot map(UnaryOperator<String> texts) {
    return new Snapshot(objects.stream().map(object -> object.map(texts)).toList(), unseen);
  }

  /** The same with the owners and grants of another one. */
  public Snapshot withRightsOf(Snapshot other) {
    List<DatabaseObject> all = new ArrayList<>(withoutRights().objects);
    other.objects.stream().filter(object -> object.kind().isRight()).forEach(all::add);
    return new Snapshot(all, unseen);
  }

  /** The same without owners and grants. */
  public Snapshot withoutRights() {
    return new Snapshot(
        objects.stream().filter(object -> !object.kind().isRight()).toList(), unseen);
  }

  /** What is there before anything is made: who owns the schemas, and may use them. */
  public Snapshot ground() {
    return new Snapshot(objects.stream().filter(Snapshot::isGround).toList());
  }

  private static boolean isGround(DatabaseObject object) {
    return object instanceof Right right && right.object().kind() == Kind.SCHEMA;
  }
}
