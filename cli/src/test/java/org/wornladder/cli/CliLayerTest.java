package org.wornladder.cli;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

/** What the command line may do, and where. */
@AnalyzeClasses(
    packages = "org.wornladder.cli",
    importOptions = ImportOption.DoNotIncludeTests.class)
class CliLayerTest {
  @ArchTest
  static final ArchRule ONLY_MAIN_ENDS_THE_PROGRAM_OR_TOUCHES_ITS_STREAMS =
      noClasses()
          .that()
          .doNotHaveFullyQualifiedName("org.wornladder.cli.Main")
          .should()
          .callMethod(System.class, "exit", int.class)
          .orShould()
          .accessField(System.class, "out")
          .orShould()
          .accessField(System.class, "err")
          .orShould()
          .accessField(System.class, "in");

  @ArchTest
  static final ArchRule VIEWS_KNOW_NO_COMMANDS =
      noClasses()
          .that()
          .resideInAPackage("..view..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage("..cli.command..", "picocli..");

  @ArchTest
  static final ArchRule THE_COMMAND_LINE_TOUCHES_NO_DATABASE =
      noClasses()
          .that()
          // The example plays a person who works past the ladder.
          .doNotHaveFullyQualifiedName("org.wornladder.cli.demo.ManualChange")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage("java.sql..", "org.sqlite..");
}
