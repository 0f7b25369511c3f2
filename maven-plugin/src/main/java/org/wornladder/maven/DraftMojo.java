package org.wornladder.maven;

import java.util.ArrayList;
import java.util.List;
import org.apache.maven.plugins.annotations.Mojo;
import org.apache.maven.plugins.annotations.Parameter;
import org.wornladder.Draft;
import org.wornladder.DraftOptions;
import org.wornladder.DraftQuestions;
import org.wornladder.Ladder;

/** Writes the rung that schema/ asks for; what is not sure or not proved fails the build. */
@Mojo(name = "draft", requiresProject = false)
public class DraftMojo extends LadderMojo {
  /** What the rung is for. */
  @Parameter(property = "worn-ladder.words", defaultValue = "draft")
  private String words;

  @Override
  List<String> run(Ladder ladder) {
    Draft draft = ladder.draft(DraftOptions.of(words), DraftQuestions.UNANSWERED);
    draft.file().ifPresent(file -> getLog().info("wrote " + file));
    if (draft.isEmpty()) {
      getLog().info("there is nothing to draft");
    }
    List<String> found = new ArrayList<>();
    draft.notProved().ifPresent(reason -> found.add("not proved: " + reason));
    draft
        .unanswered()
        .forEach(one -> found.add("not sure: is " + one.before() + " now " + one.after() + "?"));
    return found;
  }
}
