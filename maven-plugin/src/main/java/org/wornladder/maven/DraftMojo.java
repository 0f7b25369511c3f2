package org.wornladder.maven;

import java.util.ArrayList;
import java.util.List;
import org.apache.maven.plugins.annotations.Mojo;
import org.apache.maven.plugins.annotations.Parameter;
import org.wornladder.Draft;
import org.wornladder.DraftOptions;
import org.wornladder.DraftQuestions;
import org.wornladder.Ladder;

/**
 * Writes the rung that schema/ or the application's entity classes ask for; what is not sure or not
 * proved fails the build.
 */
@Mojo(name = "draft", requiresProject = false)
public class DraftMojo extends LadderMojo {
  /** What the rung is for. */
  @Parameter(property = "worn-ladder.words", defaultValue = "draft")
  private String words;

  /**
   * Folders of entity classes, jars, and folders of jars, from which the rung is written; schema/
   * if none is named.
   */
  @Parameter(property = "worn-ladder.entities")
  private List<String> entities = new ArrayList<>();

  /** What is dropped of which the classes do not speak, such as column:bin.fax. */
  @Parameter(property = "worn-ladder.dropUnmapped")
  private List<String> dropUnmapped = new ArrayList<>();

  @Override
  List<String> run(Ladder ladder) {
    DraftOptions options = DraftOptions.of(words);
    Draft draft =
        ladder.draft(
            entities.isEmpty() ? options : options.from(ladder.entities(entities), dropUnmapped),
            DraftQuestions.UNANSWERED);
    draft.file().ifPresent(file -> getLog().info("wrote " + file));
    if (draft.isEmpty()) {
      getLog().info("there is nothing to draft");
    }
    draft.unmapped().forEach(one -> getLog().warn("no entity class maps " + one.description()));
    List<String> found = new ArrayList<>();
    draft.notProved().ifPresent(reason -> found.add("not proved: " + reason));
    draft
        .unanswered()
        .forEach(one -> found.add("not sure: is " + one.before() + " now " + one.after() + "?"));
    return found;
  }
}
