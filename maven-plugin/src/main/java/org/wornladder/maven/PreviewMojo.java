package org.wornladder.maven;

import java.util.List;
import org.apache.maven.plugins.annotations.Mojo;
import org.wornladder.ApplyOptions;
import org.wornladder.Ladder;
import org.wornladder.Preview;
import org.wornladder.execution.Step;
import org.wornladder.sql.Statement;

/** Shows what apply would do, with the risks; the build fails where apply would be refused. */
@Mojo(name = "preview", requiresProject = false, threadSafe = true)
public class PreviewMojo extends LadderMojo {
  @Override
  List<String> run(Ladder ladder) {
    Preview preview = ladder.preview(environment(), ApplyOptions.ALL);
    for (Step step : preview.plan().steps()) {
      getLog().info(step.label() + "  " + step.about());
      for (Statement statement : step.statements()) {
        getLog()
            .info("    " + preview.plan().secrets().mask(statement.text()).replaceAll("\\s+", " "));
      }
    }
    preview
        .risks()
        .forEach(
            found ->
                getLog()
                    .warn(
                        found.risk().kind().label()
                            + "  "
                            + found.risk().subject()
                            + ": "
                            + found.risk().reason()));
    if (preview.plan().isEmpty()) {
      getLog().info("nothing waits");
    }
    return preview.refusal().map(refusal -> List.of(refusal.what())).orElse(List.of());
  }
}
