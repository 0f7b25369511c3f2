package org.wornladder;

import java.util.List;
import java.util.Optional;
import org.wornladder.CheckReport.Finding;
import org.wornladder.change.Difference;
import org.wornladder.journal.History;

/**
 * Whether a database is what its history says.
 *
 * @param against what the structure was held against
 * @param known whether it is known what should be there: it is not if the snapshots that runs have
 *     saved are lost
 * @param structure what is there against what should, without what the project ignores: {@code
 *     before} is expected, {@code after} is found
 * @param ignored how many differences the project ignores
 * @param hidden objects that this user may not read: whether they differ is unknown
 * @param files rungs that are gone, worn, late or stuck
 * @param broken where the journal's chain breaks; empty if it holds
 * @param entries how many entries this project has in the journal
 * @param seeds reference data beside the rows that stand
 */
public record DriftReport(
    String environment,
    String engine,
    String address,
    boolean isThere,
    Against against,
    boolean known,
    List<Difference> structure,
    int ignored,
    List<String> hidden,
    List<Finding> files,
    Optional<History.Break> broken,
    int entries,
    SeedDrift seeds) {
  public boolean isClean() {
    return isCleanButForSeeds() && seeds.isClean();
  }

  /** Whether structure, files and journal are known to be as they should be. */
  public boolean isCleanButForSeeds() {
    return known && structure.isEmpty() && files.isEmpty() && broken.isEmpty();
  }
}
