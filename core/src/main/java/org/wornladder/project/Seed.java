package org.wornladder.project;

import java.util.List;
import org.wornladder.sql.Place;

/**
 * An entry under {@code seeds:} in the settings: what should be in a table, or a script that says
 * what rows cannot.
 *
 * @param place where the entry stands
 * @param form how the file is written
 * @param table the table's name; empty for a script
 * @param file relative to the project; until {@link #in} with a place for the environment's name
 * @param key the columns by which rows are found; empty for the primary key
 * @param update whether rows that are there take on what the file says
 * @param delete whether rows that the file does not have are deleted
 * @param onlyIn the environments that it is for; empty for all
 */
public record Seed(
    Place place,
    Form form,
    String table,
    String file,
    List<String> key,
    boolean update,
    boolean delete,
    List<String> onlyIn) {
  /** The folder that seeds are in. */
  public static final String FOLDER = "seeds";

  /** What stands for the environment's name in a file's path. */
  static final String ENVIRONMENT = "@{environment}";

  /** How a seed is written. */
  public enum Form {
    CSV(".csv"),
    JSON(".json"),
    YAML(".yaml"),
    /** Says how rows are made. */
    SAMPLE(".sample.yaml"),
    /** A script of statements. */
    SQL(".sql");

    private final String ending;

    Form(String ending) {
      this.ending = ending;
    }

    /** The ending of its files. */
    public String ending() {
      return ending;
    }
  }

  public Seed {
    key = List.copyOf(key);
    onlyIn = List.copyOf(onlyIn);
  }

  /** Whether it is for an environment. */
  public boolean isFor(String environment) {
    return onlyIn.isEmpty() || onlyIn.contains(environment);
  }

  /** Whether it makes rows up. */
  public boolean isSample() {
    return form == Form.SAMPLE;
  }

  /** Whether there is an environment that both are for. */
  boolean meets(Seed other) {
    return onlyIn.isEmpty()
        || other.onlyIn.isEmpty()
        || onlyIn.stream().anyMatch(other.onlyIn::contains);
  }

  /** The seed as one environment has it: its name in the file's place of it. */
  public Seed in(String environment) {
    String here = file.replace(ENVIRONMENT, environment);
    return new Seed(place, form, table, here, key, update, delete, onlyIn);
  }

  /** What a person calls it: its table, or the script's file. */
  public String label() {
    return form == Form.SQL ? file : table;
  }
}
