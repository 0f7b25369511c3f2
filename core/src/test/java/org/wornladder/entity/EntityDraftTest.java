package org.wornladder.entity;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Draft;
import org.wornladder.DraftOptions;
import org.wornladder.DraftQuestions;
import org.wornladder.LadderException;
import org.wornladder.TestLadder;
import org.wornladder.change.Difference;
import org.wornladder.change.Risk;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Rungs from changes of entity classes, and classes from which none can follow. */
class EntityDraftTest {
  private static final String GROWER =
      "@Table(name = \"grower\") @Entity class Grower { @Id Long id; @Column(length = 40) String name; }";
  private static final String STATE = "enum State { EMPTY, FULL }";
  private static final String BIN =
      "@Entity @Table(name = \"bin\") class Bin { @Id @Column(length = 9) String code; Integer weight;"
          + " @Column(nullable = false) Integer rows; @Column(length = 10) String place;"
          + " @Column(unique = true) Integer serial;"
          + " @Enumerated(EnumType.STRING) @Column(length = 9) State state; }";

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;
  private CompiledClasses classes;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    classes = new CompiledClasses(root.resolve("classes"));
    classes.of(GROWER, STATE, BIN);
    Draft first = draft("tables");
    assertThat(first.notProved()).isEmpty();
    ladder.apply();
  }

  private Draft draft(String words, String... dropped) {
    return draft(DraftOptions.of(words), dropped);
  }

  private Draft draft(DraftOptions options, String... dropped) {
    return ladder
        .open()
        .draft(
            options.from(ladder.open().entities(List.of("classes")), List.of(dropped)),
            DraftQuestions.UNANSWERED);
  }

  private static List<String> described(List<Difference> differences) {
    return differences.stream().map(one -> one.description().toLowerCase()).toList();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "Integer weight;|@Column(nullable = false) Integer weight;|SET NOT NULL",
        "@Column(nullable = false) Integer rows;|Integer rows;|DROP NOT NULL",
        "Integer weight;|Long weight;|ALTER COLUMN weight TYPE bigint",
        "@Column(length = 10) String place;|@Column(length = 30) String place;|TYPE character varying(30)",
        "Integer weight;|Integer weight; java.time.LocalDate packed;|ADD COLUMN packed date",
        "Integer weight;|@Column(unique = true) Integer weight;|UNIQUE (weight)",
        "Integer weight;|Integer weight; @ManyToOne Grower grower;|FOREIGN KEY (grower_id) REFERENCES grower (id)",
        "Integer weight;|Integer weight; @ManyToMany Set<Grower> growers;|CREATE TABLE bin_grower",
        "Integer weight;|Integer weight; @ElementCollection List<String> notes;|CREATE TABLE bin_notes",
        "(name = \"bin\")|(name = \"bin\", indexes = @Index(name = \"by_place\", columnList = \"place\"))|CREATE INDEX by_place",
        "Integer weight;|Integer weight; @Version int version;|ADD COLUMN version integer NOT NULL"
      })
  void aChangeOfAClassIsTheRung(String before, String after, String expected) {
    on(Kind.POSTGRES);
    assertThat(BIN).contains(before);
    classes.of(GROWER, STATE, BIN.replace(before, after));
    Draft change = draft("change");
    assertThat(change.text()).contains(expected);
    assertThat(change.notProved()).isEmpty();
    assertThat(change.unmapped()).isEmpty();
    ladder.apply();
    assertThat(draft("again").isEmpty()).isTrue();
  }

  /**
   * The program of before works on the structure of after unless a risk says that it does not; that
   * of after works there in any case.
   */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "Integer weight;|@Column(nullable = false) Integer weight;",
        "@Column(nullable = false) Integer rows;|Integer rows;",
        "Integer weight;|Long weight;",
        "Integer weight;|Integer weight; java.time.LocalDate packed;",
        "Integer weight;|Integer weight; @Column(nullable = false) Integer lids;",
        "Integer weight;|Integer weight; @ManyToOne Grower grower;",
        "Integer weight;|Integer weight; @Version int version;",
        "Integer weight;|Integer grams;",
        "Integer weight;|"
      })
  void theRisksSayWhetherTheOldProgramGoesOn(String before, String after) throws Exception {
    on(Kind.H2);
    Path old = root.resolve("old");
    new CompiledClasses(old).of(GROWER, STATE, BIN);
    assertThat(new ApplicationVersion(old).worksOn(database.url())).isTrue();
    classes.of(GROWER, STATE, BIN.replace(before, Optional.ofNullable(after).orElse("")));
    boolean isRename = "Integer grams;".equals(after);
    DraftOptions options =
        DraftOptions.of("change").withRenamed(isRename ? Map.of("BIN.WEIGHT", "GRAMS") : Map.of());
    Draft change = after == null ? draft(options, "column:BIN.WEIGHT") : draft(options);
    database.execute("DELETE FROM bin");
    ladder.apply();
    boolean breaks =
        change.risks().stream().anyMatch(risk -> risk.kind() == Risk.Kind.BREAKS_OLD_CODE);
    assertThat(new ApplicationVersion(old).worksOn(database.url())).isEqualTo(!breaks);
    assertThat(new ApplicationVersion(classes.folder()).worksOn(database.url())).isTrue();
  }

  @ParameterizedTest
  @EnumSource
  void aConstantThatComesChangesTheCondition(Kind kind) {
    on(kind);
    classes.of(GROWER, "enum State { EMPTY, FULL, BROKEN }", BIN);
    Draft change = draft("broken");
    assertThat(change.notProved()).isEmpty();
    ladder.apply();
    database.execute(
        "INSERT INTO bin (code, rows, state) VALUES ('a', 1, 'BROKEN')"
            .replace("rows", column(kind)));
    assertThatThrownBy(
            () ->
                database.execute(
                    "INSERT INTO bin (code, rows, state) VALUES ('b', 1, 'LOST')"
                        .replace("rows", column(kind))))
        .isInstanceOf(IllegalStateException.class);
    assertThat(draft("again").isEmpty()).isTrue();
  }

  /** A word that MariaDB reserves. */
  private static String column(Kind kind) {
    return kind == Kind.MARIADB ? "`rows`" : "rows";
  }

  @ParameterizedTest
  @EnumSource
  void whatTheClassesDoNotSpeakOfStaysUntilItIsNamed(Kind kind) {
    on(kind);
    ladder.rung(
        "0002-others",
        "CREATE TABLE audit (id integer PRIMARY KEY);\nALTER TABLE bin ADD COLUMN fax varchar(9)"
            + " DEFAULT 'x';\nCREATE INDEX bin_place ON bin (place);",
        "DROP TABLE audit;");
    ladder.apply();
    Draft nothing = draft("nothing");
    assertThat(nothing.isEmpty()).isTrue();
    assertThat(described(nothing.unmapped()))
        .containsExactlyInAnyOrder("table audit", "column bin.fax");
    String name =
        nothing.unmapped().stream()
            .filter(one -> one.owner().isPresent())
            .findFirst()
            .orElseThrow()
            .fullName();
    Draft dropped = draft("no-fax", "column:" + name);
    assertThat(described(dropped.written())).containsExactly("column bin.fax");
    assertThat(described(dropped.unmapped())).containsExactly("table audit");
    assertThat(dropped.notProved()).isEmpty();
    ladder.file("ladder.yaml", ladder.text("ladder.yaml") + "ignore: [\"table:*\"]\n");
    assertThatThrownBy(() -> draft("typo", "column:bin.fox"))
        .hasMessageContaining("names nothing that the model leaves out");
  }

  @Test
  void aFieldWithAnotherNameIsOfferedAsARename() {
    on(Kind.POSTGRES);
    classes.of(GROWER, STATE, BIN.replace("Integer weight", "Integer grams"));
    Draft unsure = draft(DraftOptions.of("grams").withRenamed(Map.of()));
    assertThat(unsure.unanswered()).hasSize(1);
    assertThat(unsure.text()).contains("ADD COLUMN grams").doesNotContain("DROP COLUMN weight");
    ladder.delete("rungs/0002-grams.sql");
    Draft sure = draft(DraftOptions.of("grams").withRenamed(Map.of("bin.weight", "grams")));
    assertThat(sure.unanswered()).isEmpty();
    assertThat(sure.text()).contains("RENAME COLUMN weight TO grams");
    assertThat(sure.notProved()).isEmpty();
  }

  @Test
  void aUniqueKeyThatNoClassDemandsIsNamed() {
    on(Kind.POSTGRES);
    classes.of(GROWER, STATE, BIN.replace("@Column(unique = true) ", ""));
    Draft stays = draft("unique");
    assertThat(stays.isEmpty()).isTrue();
    assertThat(stays.unmapped()).hasSize(1);
    Difference unique = stays.unmapped().get(0);
    Draft gone = draft("unique", unique.kind().label() + ":" + unique.fullName());
    assertThat(gone.text()).contains("DROP CONSTRAINT");
  }

  @Test
  void theEntitiesCanBeComparedWithWhatIsThere() {
    on(Kind.H2);
    ladder.file("ladder.yaml", ladder.text("ladder.yaml") + "entities: { classes: [classes] }\n");
    assertThat(ladder.open().compare("entities", "env:dev", false).differences()).isEmpty();
    database.execute("ALTER TABLE bin ALTER COLUMN weight SET NOT NULL");
    assertThat(described(ladder.open().compare("entities", "env:dev", false).differences()))
        .containsExactly("column bin.weight");
  }

  @Test
  void aProjectsOwnTypesCount() {
    on(Kind.POSTGRES);
    ladder.file(
        "ladder.yaml",
        ladder.text("ladder.yaml")
            + "entities: { types: { java.lang.String: text, shop.Money: \"numeric(12, 2)\" } }\n");
    classes.of(
        GROWER,
        STATE,
        "class Money {}",
        BIN.replace("Integer weight;", "Integer weight; Money price;"));
    assertThat(draft("own").text()).contains("price numeric(12,2)").contains("TYPE text");
  }

  /** What cannot be read is said with the class, and what to do. */
  private void refuses(String what, String where) {
    assertThatThrownBy(() -> draft("refused"))
        .isInstanceOfSatisfying(
            LadderException.class,
            refusal -> {
              assertThat(refusal.what()).contains(what);
              assertThat(refusal.where().map(Object::toString).orElse("")).contains(where);
            });
  }

  private void sqlite() {
    database = TestDatabase.make(Kind.SQLITE, root);
    ladder = TestLadder.on(database, root);
    classes = new CompiledClasses(root.resolve("classes"));
  }

  @Test
  void nothingRunsAndNoDebugInformationIsNeeded() {
    sqlite();
    classes.of(
        List.of("-g:none"),
        "@Entity class Bin { static { if (true) throw new Error(\"loaded\"); } @Id Long id; }");
    assertThat(draft("bin").text()).contains("CREATE TABLE");
  }

  @Test
  void theOlderPackageIsReadAsWell() {
    sqlite();
    classes.of(
        "@javax.persistence.Entity class Bin { @javax.persistence.Id Long id;"
            + " @javax.persistence.Column(name = \"kg\") Integer weight; }");
    assertThat(draft("bin").text()).contains("\"kg\" integer");
  }

  @Test
  void aFolderWithoutEntities() {
    sqlite();
    classes.of("class Plain {}");
    refuses("no class there is an entity", "");
  }

  @Test
  void aFolderThatIsNotThere() {
    sqlite();
    refuses("there is no such folder or jar", "classes");
  }

  @Test
  void twoEntitiesOfOneTable() {
    sqlite();
    classes.of(
        "@Entity class Bin { @Id Long id; }",
        "@Table(name = \"BIN\") @Entity class Crate { @Id Long id; }");
    refuses("two entities have the table", "shop.Bin");
  }

  @Test
  void anEntityWithoutAnIdentifier() {
    sqlite();
    classes.of("@Entity class Bin { Long id; }");
    refuses("the entity has no identifier", "shop.Bin");
  }

  @Test
  void aClassThatIsMissing() throws IOException {
    sqlite();
    classes.of("class Money {}", "@Entity class Bin { @Id Long id; Money price; }");
    Files.delete(root.resolve("classes/shop/Money.class"));
    refuses("the class shop.Money is not on the path", "shop.Bin.price");
    classes.of(
        "@MappedSuperclass class Kept {}", "@Entity class Bin extends Kept { @Id Long id; }");
    Files.delete(root.resolve("classes/shop/Kept.class"));
    refuses("the class shop.Kept is not on the path", "shop.Bin");
  }

  @Test
  void aTypeThatNobodyKnows() {
    sqlite();
    classes.of("class Money {}", "@Entity class Bin { @Id Long id; Money price; }");
    refuses("no type is known for shop.Money", "shop.Bin.price");
  }

  @Test
  void anAnnotationThatIsNotUnderstood() {
    sqlite();
    classes.of(
        "@Entity class Bin { @Id Long id; @org.hibernate.annotations.Formula(\"1\") int one; }");
    refuses("@org.hibernate.annotations.Formula is not understood", "shop.Bin.one");
    ladder.file(
        "ladder.yaml",
        ladder.text("ladder.yaml")
            + "entities: { pass-over: [org.hibernate.annotations.Formula] }\n");
    assertThat(draft("bin").text()).contains("\"one\" integer");
  }

  @Test
  void aClassFileOfANewerJavaIsReadAndABrokenOneNamed() throws IOException {
    sqlite();
    classes.of("@Entity class Bin { @Id Long id; }");
    Path file = root.resolve("classes/shop/Bin.class");
    byte[] bytes = Files.readAllBytes(file);
    bytes[7] = (byte) 200;
    Files.write(file, bytes);
    assertThat(draft("bin").text()).contains("CREATE TABLE");
    Files.write(file, Arrays.copyOf(bytes, bytes.length / 2));
    refuses("no class file that can be read", "shop/Bin.class");
    Files.writeString(file, "no class");
    refuses("no class file that can be read", "shop/Bin.class");
  }

  @Test
  void aClassThatIsItsOwnSuperclass() throws IOException {
    sqlite();
    classes.of(
        "@Entity class Batch { @Id Long id; }",
        "@Entity class Bin extends Batch {}",
        "@Entity class Crate extends Bin {}");
    // Bin's superclass becomes Crate, whose superclass is Bin.
    Path file = root.resolve("classes/shop/Bin.class");
    String bytes = Files.readString(file, StandardCharsets.ISO_8859_1);
    Files.writeString(file, bytes.replace("shop/Batch", "shop/Crate"), StandardCharsets.ISO_8859_1);
    refuses("the class is its own superclass", "shop");
  }

  @Test
  void twoHundredEntitiesAreReadInASecondOrTwo() {
    sqlite();
    List<String> sources = new ArrayList<>();
    for (int i = 0; i < 200; i++) {
      String other = i == 0 ? "" : "@ManyToOne Bin" + (i - 1) + " before;";
      sources.add(
          "@Entity class Bin%d { @Id Long id; String a; @Column(length = 9) String b; Integer c; %s }"
              .formatted(i, other));
    }
    classes.of(sources.toArray(String[]::new));
    long start = System.nanoTime();
    try (ClassPath path = new ClassPath(List.of(classes.folder()))) {
      ClassMapping mapping = new ClassMapping(path, new KnownAnnotations(Set.of()));
      TypeTable types = new TypeTable("h2", Map.of(), false);
      EntityTables tables =
          new EntityTables(mapping, new BasicTypes(mapping, types, false), Naming.AS_WRITTEN, true);
      assertThat(new ModelSql("h2", types, name -> name).statements(tables)).hasSize(200 + 199);
    }
    assertThat((System.nanoTime() - start) / 1_000_000).isLessThan(2_000);
  }
}
