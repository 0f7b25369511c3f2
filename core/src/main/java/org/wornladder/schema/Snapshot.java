package org.wornladder.schema;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.wornladder.sql.Fingerprint;

/**
 * A database's structure as data, at one moment: equal structures are equal snapshots.
 *
 * @param elements by kind and name
 * @param unseen the kinds of objects of which the user who asked may not see all that are there; no
 *     part of what is kept
 */
public record Snapshot(List<Element> elements, Set<Kind> unseen) {
  /** By kind, then by name. */
  public static final Comparator<Element> ORDER =
      Comparator.comparing(Element::kind).thenComparing(Element::name);

  public static final Snapshot EMPTY = new Snapshot(List.of());

  public Snapshot {
    elements = elements.stream().sorted(ORDER).toList();
    unseen = Set.copyOf(unseen);
  }

  /** One of which all is seen. */
  public Snapshot(List<Element> elements) {
    this(elements, Set.of());
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
    return withoutRights().meaning().fingerprint();
  }

  /**
   * SHA-256 over the whole structure, as 64 hexadecimal digits: the format's version, and then each
   * element's kind, name, facts and parts in order, each element in braces.
   */
  public String fingerprint() {
    Fingerprint.Parts hash = new Fingerprint.Parts();
    hash.add(Integer.toString(SnapshotJson.VERSION));
    add(elements, hash);
    return hash.hex();
  }

  private static void add(List<Element> elements, Fingerprint.Parts hash) {
    for (Element element : elements) {
      hash.mark("{" + element.kind().label() + "=");
      hash.add(element.name());
      element
          .facts()
          .forEach(
              (name, value) -> {
                hash.add(name);
                hash.add(value);
              });
      add(element.parts(), hash);
      hash.mark("}");
    }
  }

  private Snapshot meaning() {
    return new Snapshot(elements.stream().map(Element::meaning).toList());
  }

  /** The same with other texts in the facts of its elements. */
  public Snapshot map(UnaryOperator<String> texts) {
    return new Snapshot(elements.stream().map(element -> element.map(texts)).toList(), unseen);
  }

  /** The same without owners and grants. */
  public Snapshot withoutRights() {
    return new Snapshot(
        elements.stream().filter(element -> !element.kind().isRight()).toList(), unseen);
  }

  /** What is there before anything is made: who owns the schemas, and may use them. */
  public Snapshot ground() {
    return new Snapshot(elements.stream().filter(Snapshot::isGround).toList());
  }

  private static boolean isGround(Element element) {
    return element.kind().isRight()
        && (element.name().startsWith("schema ") || element.name().startsWith("database "));
  }
}
