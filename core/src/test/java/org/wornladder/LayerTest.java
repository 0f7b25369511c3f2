package org.wornladder;

import static com.tngtech.archunit.core.domain.JavaClass.Predicates.assignableTo;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import com.tngtech.archunit.lang.CompositeArchRule;
import java.util.Map;
import java.util.concurrent.Executor;
import java.util.concurrent.Future;

/** What may import what: see CONTRIBUTING.md. */
@AnalyzeClasses(packages = "org.wornladder", importOptions = ImportOption.DoNotIncludeTests.class)
class LayerTest {
  private static final String[] PACKAGES = {
    "org.wornladder",
    "..service..",
    "..scratch..",
    "..entity..",
    "..seed..",
    "..execution..",
    "..attic..",
    "..journal..",
    "..engine..",
    "..change..",
    "..schema..",
    "..project..",
    "..sql.."
  };

  /** The driver of each engine's folder. */
  private static final Map<String, String> DRIVERS =
      Map.of(
          "sqlite", "org.sqlite..",
          "postgres", "org.postgresql..",
          "mariadb", "org.mariadb..",
          "h2", "org.h2..",
          "document", "com.mongodb..");

  private static final DescribedPredicate<JavaClass> LADDER =
      DescribedPredicate.describe(
          "the class Ladder",
          type -> type.getFullName().matches("org\\.wornladder\\.Ladder(\\$.*)?"));

  private static final DescribedPredicate<JavaClass> ADVICE =
      DescribedPredicate.describe(
          "Advice", type -> type.getFullName().matches("org\\.wornladder\\.Advice(\\$.*)?"));

  /** Options, results and events: they may name what every other package has. */
  private static final DescribedPredicate<JavaClass> API_TYPES =
      resideInAPackage("org.wornladder")
          .and(DescribedPredicate.not(LADDER))
          .and(DescribedPredicate.not(assignableTo(LadderException.class)))
          .and(DescribedPredicate.not(ADVICE))
          .as("the options, results and events of the API");

  @ArchTest
  static final ArchRule EVERY_CLASS_IS_IN_A_KNOWN_PACKAGE =
      classes().should().resideInAnyPackage(PACKAGES);

  @ArchTest
  static final ArchRule LAYERS =
      layeredArchitecture()
          .consideringOnlyDependenciesInLayers()
          .layer("Ladder")
          .definedBy(LADDER)
          .layer("service")
          .definedBy("..service..")
          .layer("scratch")
          .definedBy("..scratch..")
          .layer("entity")
          .definedBy("..entity..")
          .layer("seed")
          .definedBy("..seed..")
          .layer("execution")
          .definedBy("..execution..")
          .layer("attic")
          .definedBy("..attic..")
          .layer("journal")
          .definedBy("..journal..")
          .layer("engine")
          .definedBy("..engine..")
          .layer("change")
          .definedBy("..change..")
          .layer("schema")
          .definedBy("..schema..")
          .layer("project")
          .definedBy("..project..")
          .layer("sql")
          .definedBy("..sql..")
          .whereLayer("Ladder")
          .mayNotBeAccessedByAnyLayer()
          .whereLayer("service")
          .mayOnlyBeAccessedByLayers("Ladder")
          .whereLayer("scratch")
          .mayOnlyBeAccessedByLayers("Ladder", "service")
          .whereLayer("entity")
          .mayOnlyBeAccessedByLayers("Ladder", "service")
          .whereLayer("seed")
          .mayOnlyBeAccessedByLayers("Ladder", "service", "scratch")
          .whereLayer("execution")
          .mayOnlyBeAccessedByLayers("Ladder", "service", "scratch", "entity", "seed")
          .whereLayer("attic")
          .mayOnlyBeAccessedByLayers("Ladder", "service", "scratch", "entity", "seed", "execution")
          .whereLayer("journal")
          .mayOnlyBeAccessedByLayers(
              "Ladder", "service", "scratch", "entity", "seed", "execution", "attic")
          .whereLayer("engine")
          .mayOnlyBeAccessedByLayers(
              "Ladder", "service", "scratch", "entity", "seed", "execution", "attic", "journal")
          .whereLayer("project")
          .mayOnlyAccessLayers("sql")
          .whereLayer("schema")
          .mayOnlyAccessLayers("sql")
          .whereLayer("change")
          .mayOnlyAccessLayers("schema", "project", "sql")
          .whereLayer("sql")
          .mayNotAccessAnyLayer();

  @ArchTest
  static final ArchRule LOWER_PACKAGES_KNOW_ONLY_EXCEPTIONS_AND_ADVICE_OF_THE_API =
      noClasses()
          .that()
          .resideInAnyPackage(
              "..sql..", "..project..", "..schema..", "..change..", "..engine..", "..journal..")
          .should()
          .dependOnClassesThat(API_TYPES);

  @ArchTest
  static final ArchRule FILES_AND_STRUCTURE_KNOW_NO_DATABASE =
      noClasses()
          .that()
          .resideInAnyPackage("..sql..", "..project..", "..schema..", "..change..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage("java.sql..", "javax.sql..");

  @ArchTest static final ArchRule DRIVERS_STAY_IN_THEIR_ENGINE = driversStay();

  private static ArchRule driversStay() {
    CompositeArchRule rule = CompositeArchRule.of(EVERY_CLASS_IS_IN_A_KNOWN_PACKAGE);
    for (Map.Entry<String, String> driver : DRIVERS.entrySet()) {
      String folder = "org.wornladder.engine." + driver.getKey();
      rule =
          rule.and(
              noClasses()
                  .that()
                  .resideOutsideOfPackage(folder)
                  .should()
                  .dependOnClassesThat()
                  .resideInAPackage(driver.getValue()));
      rule =
          rule.and(
              noClasses()
                  .that()
                  .resideOutsideOfPackage(folder)
                  .and()
                  .doNotHaveFullyQualifiedName("org.wornladder.engine.Engines")
                  .should()
                  .dependOnClassesThat()
                  .resideInAPackage(folder));
    }
    return rule;
  }

  /** But for the heartbeat of a lock that is a lease. */
  @ArchTest
  static final ArchRule THE_CORE_STARTS_ONE_THREAD_ALONE =
      noClasses()
          .that()
          .doNotHaveFullyQualifiedName("org.wornladder.engine.Heartbeat")
          .should()
          .callConstructor(Thread.class, Runnable.class)
          .orShould()
          .callConstructor(Thread.class, Runnable.class, String.class)
          .orShould()
          .dependOnClassesThat()
          .areAssignableTo(Executor.class)
          .orShould()
          .dependOnClassesThat()
          .areAssignableTo(Future.class);

  @ArchTest
  static final ArchRule THE_CORE_KNOWS_NO_COMMAND_LINE =
      noClasses()
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage("picocli..", "me.tongfei..", "org.wornladder.cli..");

  @ArchTest
  static final ArchRule THE_CORE_NEVER_PRINTS_READS_OR_EXITS =
      noClasses()
          .should()
          .accessField(System.class, "out")
          .orShould()
          .accessField(System.class, "err")
          .orShould()
          .accessField(System.class, "in")
          .orShould()
          .callMethod(System.class, "exit", int.class);
}
