package org.wornladder;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

/** What may import what: see CONTRIBUTING.md. */
@AnalyzeClasses(packages = "org.wornladder", importOptions = ImportOption.DoNotIncludeTests.class)
class LayerTest {
  @ArchTest
  static final ArchRule LAYERS =
      layeredArchitecture()
          .consideringOnlyDependenciesInLayers()
          .layer("front door")
          .definedBy("org.wornladder")
          .layer("survey")
          .definedBy("..survey..")
          .layer("seed")
          .definedBy("..seed..")
          .layer("climb")
          .definedBy("..climb..")
          .layer("journal")
          .definedBy("..journal..")
          .layer("engine")
          .definedBy("..engine..")
          .layer("diff")
          .definedBy("..diff..")
          .layer("schema")
          .definedBy("..schema..")
          .layer("project")
          .definedBy("..project..")
          .layer("sql")
          .definedBy("..sql..")
          .whereLayer("front door")
          .mayNotBeAccessedByAnyLayer()
          .whereLayer("survey")
          .mayOnlyBeAccessedByLayers("front door")
          .whereLayer("seed")
          .mayOnlyBeAccessedByLayers("front door", "survey")
          .whereLayer("climb")
          .mayOnlyBeAccessedByLayers("front door", "survey", "seed")
          .whereLayer("journal")
          .mayOnlyBeAccessedByLayers("front door", "survey", "seed", "climb")
          .whereLayer("engine")
          .mayOnlyBeAccessedByLayers("front door", "survey", "seed", "climb", "journal")
          .whereLayer("sql")
          .mayNotAccessAnyLayer();

  @ArchTest
  static final ArchRule FILES_AND_STRUCTURE_KNOW_NO_DATABASE =
      noClasses()
          .that()
          .resideInAnyPackage("..sql..", "..project..", "..schema..", "..diff..", "..fault..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage("java.sql..", "javax.sql..", "org.sqlite..");

  @ArchTest
  static final ArchRule DRIVERS_STAY_IN_THEIR_ENGINE =
      noClasses()
          .that()
          .resideOutsideOfPackage("..engine.sqlite..")
          .and()
          .doNotHaveFullyQualifiedName("org.wornladder.engine.Engines")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage("org.sqlite..", "org.wornladder.engine.sqlite..");

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
