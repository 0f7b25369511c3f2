package org.wornladder;

import java.util.Optional;
import org.wornladder.change.RenameCandidate;

/** Answers what a draft cannot know. */
public interface DraftQuestions {
  /** Knows nothing. */
  DraftQuestions UNANSWERED =
      new DraftQuestions() {
        @Override
        public Optional<Boolean> isRenamed(RenameCandidate candidate) {
          return Optional.empty();
        }

        @Override
        public Optional<String> value(String column) {
          return Optional.empty();
        }
      };

  /** Whether what goes and what comes are one thing under another name; empty if unknown. */
  Optional<Boolean> isRenamed(RenameCandidate candidate);

  /**
   * What rows get that have no value in a column which every row must have.
   *
   * @param column with its table's name in front
   * @return SQL; empty for nothing
   */
  Optional<String> value(String column);

  /**
   * Whether something goes that a model does not map; empty if that is unknown, so that it stays.
   *
   * @param thing its kind and name
   */
  default Optional<Boolean> isDropped(String thing) {
    return Optional.empty();
  }
}
