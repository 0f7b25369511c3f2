package org.wornladder.schema;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.sql.Fingerprint;

/**
 * A database's structure as data, at one moment: equal structures are equal snapshots.
 *
 * @param elements by kind and name
 * @param unseen the kinds of things of which who asked may not see all that are there; no part of
 *     what is kept
 */
public record Snapshot(List<Element> elements, Set<Kind> unseen) {
  /** By kind, then by name. */
  public static final Comparator<Element> ORDER = Snapshot::compare;

  public static final Snapshot EMPTY = new Snapshot(List.of());

  /** How an element of each kind begins where a fingerprint is worked out. */
  private static final String[] BEGINNINGS = beginnings();

  private static String[] beginnings() {
    String[] beginnings = new String[Kind.values().length];
    for (Kind kind : Kind.values()) {
      beginnings[kind.ordinal()] = "{" + kind.word() + "=";
    }
    return beginnings;
  }

  // Written out: comparators put together are made at run time, as long as a small structure takes.
  private static int compare(Element one, Element other) {
    int byKind = one.kind().compareTo(other.kind());
    return byKind != 0 ? byKind : one.name().compareTo(other.name());
  }

  public Snapshot {
    List<Element> sorted = new ArrayList<>(elements);
    sorted.sort(ORDER);
    elements = List.copyOf(sorted);
    unseen = Set.copyOf(unseen);
  }

  /** One of which all is seen. */
  public Snapshot(List<Element> elements) {
    this(elements, Set.of());
  }

  /**
   * The kinds of things of which who asked may not see all, in words such as {@code events}, in the
   * order in which a structure lists them; without owners and grants.
   */
  public List<String> unseenKinds() {
    return unseen.stream().filter(kind -> !kind.isRight()).sorted().map(Kind::plural).toList();
  }

  /** The same as JSON, always the same text for the same structure; see {@link SnapshotJson}. */
  public String json() {
    return SnapshotJson.write(this);
  }

  /** Whether a text that {@link #json} wrote is told in the words of this version. */
  public static boolean isInTheseWords(String json) {
    return json.startsWith(EMPTY.json().substring(0, EMPTY.json().indexOf('[')));
  }

  /** The snapshot of a text that {@link #json} wrote; empty if it is none. */
  public static Optional<Snapshot> read(String json) {
    return SnapshotJson.read(json);
  }

  /** The same of what counts alone: no owners, no grants, no names that nobody chose. */
  public String meaningFingerprint() {
    return withoutRights().meaning().fingerprint();
  }

  /**
   * SHA-256 over all that it tells, as 64 hexadecimal digits: the version of its words, and then
   * each element's kind, name, facts and parts in order, each element in braces.
   */
  public String fingerprint() {
    Fingerprint.Parts told = new Fingerprint.Parts();
    told.add(Integer.toString(SnapshotJson.VERSION));
    tell(elements, told);
    return told.hex();
  }

  private static void tell(List<Element> elements, Fingerprint.Parts told) {
    for (Element element : elements) {
      told.mark(BEGINNINGS[element.kind().ordinal()]);
      told.add(element.name());
      element
          .facts()
          .forEach(
              (word, value) -> {
                told.add(word);
                told.add(value);
              });
      tell(element.parts(), told);
      told.mark("}");
    }
  }

  private Snapshot meaning() {
    return new Snapshot(elements.stream().map(Element::meaning).toList());
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
