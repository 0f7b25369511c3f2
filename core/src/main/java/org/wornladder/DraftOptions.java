package org.wornladder;

import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What a draft is made of.
 *
 * @param words what the rung is for; its file's name
 * @param from the environment whose live structure is wanted; empty for the declared structure
 * @param model the model whose structure is wanted; empty for the declared structure
 * @param dropUnmapped patterns of what is dropped that the model does not map
 * @param evenIfEmpty whether a rung is written where nothing differs
 * @param write whether a file is written at all
 * @param only patterns such as {@code table:bin*} of what is taken; empty for everything
 * @param except patterns of what is left out
 * @param renamed what is known to have another name now, by the old one: {@code bin.wt} is {@code
 *     weight_kg} or {@code bin.weight_kg}, {@code crate} is {@code bin}; an empty name if it is
 *     known that it was not renamed
 * @param fills SQL for the rows that have no value in a column, by the column's name with its
 *     table's in front
 */
public record DraftOptions(
    String words,
    Optional<String> from,
    Optional<StructureModel> model,
    List<String> dropUnmapped,
    boolean evenIfEmpty,
    boolean write,
    List<String> only,
    List<String> except,
    Map<String, String> renamed,
    Map<String, String> fills) {
  public DraftOptions {
    dropUnmapped = List.copyOf(dropUnmapped);
    only = List.copyOf(only);
    except = List.copyOf(except);
    renamed = Map.copyOf(renamed);
    fills = Map.copyOf(fills);
  }

  /** One without a model. */
  public DraftOptions(
      String words,
      Optional<String> from,
      boolean evenIfEmpty,
      boolean write,
      List<String> only,
      List<String> except,
      Map<String, String> renamed,
      Map<String, String> fills) {
    this(
        words, from, Optional.empty(), List.of(), evenIfEmpty, write, only, except, renamed, fills);
  }

  /** A rung from all in which the declared structure differs. */
  public static DraftOptions of(String words) {
    return new DraftOptions(
        words, Optional.empty(), false, true, List.of(), List.of(), Map.of(), Map.of());
  }

  /** The same from a model of the application. */
  public DraftOptions from(StructureModel other, List<String> dropped) {
    return new DraftOptions(
        words,
        Optional.empty(),
        Optional.of(other),
        dropped,
        evenIfEmpty,
        write,
        only,
        except,
        renamed,
        fills);
  }

  /** The same with other names that are known. */
  public DraftOptions withRenamed(Map<String, String> others) {
    return new DraftOptions(
        words, from, model, dropUnmapped, evenIfEmpty, write, only, except, others, fills);
  }
}
