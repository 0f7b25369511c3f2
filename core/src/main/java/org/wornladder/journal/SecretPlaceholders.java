package org.wornladder.journal;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.project.Secrets;
import org.wornladder.schema.Snapshot;
import org.wornladder.sql.Fingerprint;

/**
 * Keeps secrets out of what is saved: where an object's definition holds one, the saved structure
 * holds a salted hash. Whoever knows the secret gets the definition back.
 */
final class SecretPlaceholders {
  private static final Pattern PLACEHOLDER = Pattern.compile("@\\{secret:([0-9a-f]{64})}");

  private final Secrets secrets;
  private final Map<String, String> hashes = new HashMap<>();
  private final Map<String, String> spellings = new HashMap<>();

  /**
   * @param salt this database's own, so that equal secrets elsewhere have other hashes
   */
  SecretPlaceholders(Secrets secrets, String salt) {
    this.secrets = secrets;
    for (String spelling : secrets.spellings()) {
      String hash = Fingerprint.ofParts(List.of(salt, spelling));
      hashes.put(spelling, hash);
      spellings.put(hash, spelling);
    }
  }

  /** A structure as it is saved. */
  Snapshot hide(Snapshot snapshot) {
    return hashes.isEmpty()
        ? snapshot
        : snapshot.map(
            text ->
                secrets.replaced(
                    text,
                    found ->
                        hashes.containsKey(found) ? "@{secret:" + hashes.get(found) + "}" : found));
  }

  /** The structure that was saved; a secret that is not known any more stays hidden. */
  Snapshot reveal(Snapshot saved) {
    return spellings.isEmpty() ? saved : saved.map(this::revealed);
  }

  /** Whether a text holds the placeholder of a secret. */
  static boolean isIn(String text) {
    return PLACEHOLDER.matcher(text).find();
  }

  private String revealed(String text) {
    return text.contains("@{secret:")
        ? PLACEHOLDER
            .matcher(text)
            .replaceAll(
                found ->
                    Matcher.quoteReplacement(spellings.getOrDefault(found.group(1), found.group())))
        : text;
  }
}
