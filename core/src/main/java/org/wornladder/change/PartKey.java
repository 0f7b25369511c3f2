package org.wornladder.change;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Part;

/**
 * What distinguishes a part from the others of its object.
 *
 * @param number its place among those of one kind and name, from 1: keys without a chosen name may
 *     be made of the same
 */
record PartKey(Kind kind, String name, int number) {
  /** Parts by their keys, in their order. */
  static Map<PartKey, Part> of(List<? extends Part> parts) {
    Map<PartKey, Part> map = new LinkedHashMap<>();
    Map<PartKey, Integer> numbers = new HashMap<>();
    for (Part part : parts) {
      PartKey first = new PartKey(part.kind(), part.name(), 1);
      int number = numbers.merge(first, 1, Integer::sum);
      map.put(number == 1 ? first : new PartKey(part.kind(), part.name(), number), part);
    }
    return map;
  }
}
