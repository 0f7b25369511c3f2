package org.wornladder.spring;

import java.time.Duration;
import java.util.Optional;
import org.springframework.boot.context.properties.ConfigurationProperties;

/** What an application's settings say under {@code worn-ladder}. */
@ConfigurationProperties("worn-ladder")
public class LadderProperties {
  private static final String CLASS_PATH = "classpath:";

  /** Whether the ladder takes part in the application's start at all. */
  private boolean enabled = true;

  /** The project: a folder, or classpath:FOLDER for one that is packed with the application. */
  private String project = CLASS_PATH + "db/ladder";

  /** The environment in ladder.yaml whose database this is; the default one if not set. */
  private String environment = "";

  /** Whether waiting rungs are applied; otherwise a database that lacks some stops the start. */
  private boolean apply = true;

  /** Whether reference data is brought to what the seed files say, behind the rungs. */
  private boolean seed;

  /** The name of a guarded environment: a change there is confirmed by it. */
  private String confirm = "";

  /** How long to wait while another instance changes the database. */
  private Duration lockWait = Duration.ofMinutes(5);

  public boolean isEnabled() {
    return enabled;
  }

  public void setEnabled(boolean yes) {
    enabled = yes;
  }

  public String getProject() {
    return project;
  }

  public void setProject(String where) {
    project = where;
  }

  public String getEnvironment() {
    return environment;
  }

  public void setEnvironment(String name) {
    environment = name;
  }

  public boolean isApply() {
    return apply;
  }

  public void setApply(boolean yes) {
    apply = yes;
  }

  public boolean isSeed() {
    return seed;
  }

  public void setSeed(boolean yes) {
    seed = yes;
  }

  public String getConfirm() {
    return confirm;
  }

  public void setConfirm(String name) {
    confirm = name;
  }

  public Duration getLockWait() {
    return lockWait;
  }

  public void setLockWait(Duration time) {
    lockWait = time;
  }

  /** The folder on the class path; empty where the project is a folder of files. */
  Optional<String> onClassPath() {
    return project.startsWith(CLASS_PATH)
        ? Optional.of(project.substring(CLASS_PATH.length()).replaceFirst("^/", ""))
        : Optional.empty();
  }

  /** The environment that is named; empty for the default one. */
  Optional<String> named() {
    return Optional.of(environment).filter(name -> !name.isEmpty());
  }
}
