package org.wornladder.project;

import java.util.List;
import java.util.Optional;

/**
 * What a script's directives say before its first section.
 *
 * @param about what it is for; empty where the file does not say
 * @param passes whether it is passed over when a condition fails; otherwise the run stops
 * @param onlyIn the environments it is for; empty for all
 * @param lifts standing scripts that are taken down before it and restored after it
 * @param needs standing scripts that must run before this one
 * @param always whether a standing script runs every time
 * @param accepts the risks that are meant, in their words
 * @param statementEnd the word that stands alone in a line behind each statement; empty where
 *     semicolons end them
 * @param batching how its one statement is run piece by piece; empty for at once
 * @param folds the rungs that this one stands for; empty for all but a fold
 * @param steering the directives that steer a run, in one settled form, for the fingerprint
 */
public record Header(
    Optional<String> about,
    boolean outsideTransaction,
    List<Condition> conditions,
    boolean passes,
    List<String> onlyIn,
    List<String> lifts,
    List<String> needs,
    boolean always,
    List<String> accepts,
    Optional<String> statementEnd,
    Optional<Batching> batching,
    Optional<FoldedRange> folds,
    List<String> steering) {}
