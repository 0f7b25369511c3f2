package org.wornladder.project;

import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.sql.Place;

/** Takes the entries of one YAML map by key and type, and collects what does not fit. */
final class Fields {
  private final YamlNode.Entries map;
  private final Problems problems;
  private final Set<String> known = new LinkedHashSet<>();

  Fields(YamlNode.Entries map, Problems problems) {
    this.map = map;
    this.problems = problems;
  }

  Optional<YamlNode> node(String key) {
    known.add(key);
    YamlNode.Entry entry = map.entries().get(key);
    return entry == null ? Optional.empty() : Optional.of(entry.value());
  }

  Place place(String key) {
    return map.entries().get(key).value().place();
  }

  Optional<Template> text(String key) {
    Optional<YamlNode> node = node(key);
    return node.isPresent() ? scalar(key, node.get()) : Optional.empty();
  }

  /** A text without variables. */
  Optional<String> word(String key) {
    Optional<Template> text = text(key);
    return text.isPresent() ? Optional.of(text.get().text()) : Optional.empty();
  }

  /** A truth value; false where the key is missing. */
  boolean flag(String key) {
    return is(key, "true", List.of("true", "false"));
  }

  /** Whether a key has a word out of several; false where the key is missing. */
  boolean is(String key, String word, List<String> words) {
    Optional<String> chosen = choice(key, words);
    return chosen.isPresent() && chosen.get().equals(word);
  }

  Optional<String> choice(String key, List<String> words) {
    Optional<Template> text = text(key);
    if (text.isPresent() && !words.contains(text.get().text())) {
      Template wrong = text.get();
      String found = key + " cannot be '" + wrong.text() + "'";
      problems.error(wrong.place(), found, NearestWord.advice(wrong.text(), words));
      return Optional.empty();
    }
    return text.isPresent() ? Optional.of(text.get().text()) : Optional.empty();
  }

  Optional<Duration> duration(String key) {
    Optional<Template> text = text(key);
    if (text.isEmpty()) {
      return Optional.empty();
    }
    Optional<Duration> read = Durations.read(text.get().text());
    if (read.isEmpty()) {
      String found = key + " cannot be '" + text.get().text() + "'";
      problems.error(text.get().place(), found, "write a time such as 500ms, 5s or 2m");
    }
    return read;
  }

  List<String> words(String key) {
    List<String> words = new ArrayList<>();
    for (YamlNode item : items(key)) {
      Optional<Template> word = scalar(key, item);
      if (word.isPresent()) {
        words.add(word.get().text());
      }
    }
    return List.copyOf(words);
  }

  List<YamlNode> items(String key) {
    Optional<YamlNode> node = node(key);
    if (node.isPresent() && node.get() instanceof YamlNode.Items items) {
      return items.items();
    }
    if (node.isPresent()) {
      wrongType(key, node.get(), "a list");
    }
    return List.of();
  }

  Map<String, Template> texts(String key) {
    Map<String, Template> texts = new LinkedHashMap<>();
    for (Map.Entry<String, YamlNode.Entry> entry : map(key).entries().entrySet()) {
      Optional<Template> text = scalar(entry.getKey(), entry.getValue().value());
      if (text.isPresent()) {
        texts.put(entry.getKey(), text.get());
      }
    }
    return texts;
  }

  /** A map under a key; empty where it is missing. */
  YamlNode.Entries map(String key) {
    Optional<YamlNode> node = node(key);
    if (node.isPresent() && node.get() instanceof YamlNode.Entries entries) {
      return entries;
    }
    if (node.isPresent()) {
      wrongType(key, node.get(), "a map");
    }
    return new YamlNode.Entries(map.place(), Map.of());
  }

  /** Collects the keys that nobody asked for. */
  void end() {
    for (Map.Entry<String, YamlNode.Entry> entry : map.entries().entrySet()) {
      String key = entry.getKey();
      if (!known.contains(key)) {
        Place place = entry.getValue().key();
        problems.error(place, "unknown key '" + key + "'", NearestWord.advice(key, known));
      }
    }
  }

  private Optional<Template> scalar(String key, YamlNode node) {
    if (node instanceof YamlNode.Scalar scalar && !scalar.isNull()) {
      return Optional.of(new Template(scalar.text(), scalar.place()));
    }
    wrongType(key, node, "a single value");
    return Optional.empty();
  }

  private void wrongType(String key, YamlNode node, String wanted) {
    String found =
        node instanceof YamlNode.Scalar scalar
            ? scalar.isNull() ? "nothing" : "a single value"
            : node instanceof YamlNode.Items ? "a list" : "a map";
    problems.error(node.place(), key + " is " + found + "; it must be " + wanted, "");
  }
}
