package org.wornladder.entity.orchard;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.Date;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.stream.Stream;
import org.hibernate.Hibernate;
import org.hibernate.Session;
import org.hibernate.SessionFactory;
import org.hibernate.boot.model.naming.CamelCaseToUnderscoresNamingStrategy;
import org.hibernate.boot.model.naming.PhysicalNamingStrategy;
import org.hibernate.boot.model.naming.PhysicalNamingStrategyStandardImpl;
import org.hibernate.cfg.Configuration;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.Draft;
import org.wornladder.DraftOptions;
import org.wornladder.DraftQuestions;
import org.wornladder.Ladder;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/**
 * An application stores and reads all of its entities through its persistence provider, which makes
 * no tables, on databases that were built from the drafted rung.
 */
class SampleApplicationTest {
  private static final List<Class<?>> ENTITIES =
      List.of(
          Orchard.class,
          Block.class,
          Tree.class,
          TreeRow.class,
          Shelf.class,
          Crate.class,
          CrateSeal.class,
          Person.class,
          Picker.class,
          Foreman.class,
          Course.class,
          Chapter.class,
          Shift.class,
          Badge.class,
          Message.class,
          Warning.class,
          Machine.class,
          Tractor.class,
          Sprayer.class,
          Repair.class,
          FuelTank.class,
          Contract.class,
          Team.class,
          Errand.class,
          ErrandLog.class);

  /** Kept, so that the level stays. */
  private static final Logger QUIET = Logger.getLogger("org.hibernate");

  @TempDir Path root;

  private static String classes() {
    return Path.of(
            SampleApplicationTest.class
                .getProtectionDomain()
                .getCodeSource()
                .getLocation()
                .getPath())
        .toString();
  }

  private static SessionFactory application(TestDatabase database, PhysicalNamingStrategy names) {
    QUIET.setLevel(Level.WARNING);
    Configuration settings = new Configuration();
    Stream.concat(ENTITIES.stream(), Stream.of(WeightConverter.class))
        .forEach(settings::addAnnotatedClass);
    settings.setProperty("hibernate.connection.url", database.url());
    settings.setProperty("hibernate.hbm2ddl.auto", "none");
    settings.setProperty("hibernate.connection.pool_size", "2");
    settings.setPhysicalNamingStrategy(names);
    return settings.buildSessionFactory();
  }

  @ParameterizedTest
  @CsvSource({
    "H2, as-written",
    "POSTGRES, as-written",
    "MARIADB, as-written",
    "H2, snake-case",
    "POSTGRES, snake-case",
    "MARIADB, snake-case"
  })
  void storesAndReadsEverythingOnTheDraftedTables(Kind kind, String names) {
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder files = TestLadder.on(database, root);
    files.file("ladder.yaml", files.text("ladder.yaml") + "entities: { names: " + names + " }\n");
    Draft draft = draft(files.open(), "tables");
    assertThat(draft.notProved()).isEmpty();
    assertThat(draft.leftOut()).isEmpty();
    files.apply();
    PhysicalNamingStrategy strategy =
        names.equals("snake-case")
            ? new CamelCaseToUnderscoresNamingStrategy()
            : new PhysicalNamingStrategyStandardImpl();
    try (SessionFactory application = application(database, strategy)) {
      application.inTransaction(session -> store().forEach(one -> persist(session, one)));
      application.inTransaction(session -> read(session));
    }
    assertThat(draft(files.open(), "again").isEmpty()).isTrue();
  }

  private static Draft draft(Ladder ladder, String words) {
    return ladder.draft(
        DraftOptions.of(words).from(ladder.entities(List.of(classes())), List.of()),
        DraftQuestions.UNANSWERED);
  }

  private static List<Object> store() {
    Orchard orchard = new Orchard();
    orchard.name = "Hollow";
    orchard.address.town = "Hollowfield";
    orchard.gate = new Position(51.25, -1.5);
    orchard.nicknames.addAll(List.of("old", "upper"));
    Tree tree = new Tree();
    tree.tag = "T-1";
    tree.plantedIn = 1998;
    Block block = new Block();
    block.orchard = orchard;
    block.hectares = new BigDecimal("1.125");
    block.trees.add(tree);
    block.samples.addAll(List.of(180, 175, 190));
    block.harvests.put("2026", new BigDecimal("12.50"));
    TreeRow row = new TreeRow();
    row.block = block;
    row.number = 3;
    row.trees = 40;
    Shelf shelf = new Shelf();
    shelf.key = new ShelfKey();
    shelf.key.room = "N";
    shelf.key.number = 4;
    shelf.cooled = true;
    shelf.note = "damp";
    Crate crate = new Crate();
    crate.code = "C-1";
    crate.shelf = shelf;
    CrateSeal seal = new CrateSeal();
    seal.crate = crate;
    seal.colour = 'r';
    Foreman foreman = new Foreman();
    foreman.name = "Ada";
    foreman.drives = true;
    Chapter chapter = new Chapter();
    chapter.text = "Cut above the bud. ".repeat(500);
    chapter.drawing = new byte[] {0, 1, -1};
    Course course = new Course();
    course.title = "Pruning";
    course.chapters.add(chapter);
    Picker picker = new Picker();
    picker.name = "Ben";
    picker.skill = Skill.GRAFTING;
    picker.gloves = Size.LARGE;
    picker.dailyBest = new Weight(812.5);
    picker.foreman = foreman;
    picker.courses.add(course);
    Interval interval = new Interval();
    interval.from = LocalTime.of(6, 30);
    interval.to = LocalTime.of(11, 0);
    Shift shift = new Shift();
    shift.setDay(LocalDate.of(2026, 9, 14));
    shift.setIntervals(Set.of(interval));
    shift.setPicker(picker);
    shift.note(OffsetDateTime.of(2026, 9, 13, 18, 0, 0, 0, ZoneOffset.UTC));
    Badge badge = new Badge();
    badge.code = "AB-00001";
    badge.holder = picker;
    badge.issued = LocalDateTime.of(2026, 3, 1, 9, 0, 0, 123_456_000);
    badge.lastSeen = Instant.parse("2026-09-14T05:00:00.5Z");
    badge.expires = new Date(0);
    Warning warning = new Warning();
    warning.words = "Frost";
    warning.level = 3;
    warning.readers.add(foreman);
    Tractor tractor = new Tractor();
    tractor.number = UUID.fromString("00000000-0000-0000-0000-00000000000a");
    tractor.model = "small";
    tractor.horsepower = 60;
    tractor.litresAnHour = 5.5f;
    Sprayer sprayer = new Sprayer();
    sprayer.number = UUID.fromString("00000000-0000-0000-0000-00000000000b");
    sprayer.model = "wide";
    sprayer.capacity = 3_000_000_000L;
    sprayer.untilEmpty = Duration.ofMinutes(45);
    Repair repair = new Repair();
    repair.number = 1;
    repair.machine = tractor;
    repair.cents = new BigInteger("123456789012345678901234567890");
    repair.receipt = new byte[] {9, 8};
    repair.screws.put(Size.SMALL, 12);
    repair.size = Size.LARGE;
    FuelTank tank = new FuelTank();
    tank.place = "yard";
    tank.litres = 812.25;
    Contract contract = new Contract();
    contract.person = foreman;
    contract.since = LocalDate.of(2020, 2, 29);
    Errand errand = new Errand();
    errand.what = "fetch rope";
    errand.at = new Date(0);
    errand.mark = '!';
    errand.done = false;
    errand.cost = 2.5;
    errand.meters = 800L;
    Team team = new Team();
    team.courses.put("Pruning", course);
    team.shares.put(foreman, 60);
    team.errands.add(errand);
    ErrandLog log = new ErrandLog();
    log.entry = BigDecimal.TEN;
    log.tree = tree;
    log.words = "rope";
    shift.getPay().setCents(1250);
    return List.of(
        orchard, tree, block, row, shelf, crate, seal, foreman, chapter, course, picker, shift,
        badge, warning, tractor, sprayer, repair, tank, errand, team, log, contract);
  }

  /** The contract's key is that of a person, who must have one first. */
  private static void persist(Session session, Object one) {
    if (one instanceof Contract contract) {
      contract.id = contract.person.id;
    }
    session.persist(one);
  }

  private static void read(Session session) {
    Orchard orchard = only(session, Orchard.class);
    assertThat(orchard.gate).isEqualTo(new Position(51.25, -1.5));
    assertThat(orchard.nicknames).containsExactlyInAnyOrder("old", "upper");
    assertThat(orchard.madeBy).isEqualTo("clerk");
    assertThat(orchard.blocks).hasSize(1);
    Block block = only(session, Block.class);
    assertThat(block.hectares).isEqualByComparingTo("1.125");
    assertThat(block.samples).containsExactly(180, 175, 190);
    assertThat(block.harvests.get("2026")).isEqualByComparingTo("12.5");
    assertThat(block.trees).extracting(tree -> tree.tag).containsExactly("T-1");
    assertThat(only(session, TreeRow.class).trees).isEqualTo((short) 40);
    Shelf shelf = only(session, Shelf.class);
    assertThat(shelf.note).isEqualTo("damp");
    assertThat(shelf.cooled).isTrue();
    CrateSeal seal = only(session, CrateSeal.class);
    assertThat(seal.crate.shelf).isEqualTo(shelf);
    assertThat(seal.colour).isEqualTo('r');
    Picker picker = only(session, Picker.class);
    assertThat(picker.skill).isEqualTo(Skill.GRAFTING);
    assertThat(picker.gloves).isEqualTo(Size.LARGE);
    assertThat(picker.dailyBest).isEqualTo(new Weight(812.5));
    assertThat(picker.foreman.drives).isTrue();
    Course course = only(session, Course.class);
    assertThat(course.pickers).containsExactly(picker);
    assertThat(course.chapters.get(0).text).hasSize(9_500);
    assertThat(course.chapters.get(0).drawing).containsExactly(0, 1, -1);
    Shift shift = only(session, Shift.class);
    assertThat(shift.getIntervals())
        .extracting(interval -> interval.from)
        .containsExactly(LocalTime.of(6, 30));
    assertThat(shift.noted().toInstant()).isEqualTo(Instant.parse("2026-09-13T18:00:00Z"));
    Badge badge = only(session, Badge.class);
    assertThat(badge.issued).isEqualTo(LocalDateTime.of(2026, 3, 1, 9, 0, 0, 123_456_000));
    assertThat(badge.lastSeen).isEqualTo(Instant.parse("2026-09-14T05:00:00.5Z"));
    assertThat(badge.holder).isEqualTo(picker);
    Warning warning = (Warning) only(session, Message.class);
    assertThat(warning.level).isEqualTo((byte) 3);
    assertThat(warning.readers).hasSize(1);
    assertThat(session.createQuery("from Machine", Machine.class).list()).hasSize(2);
    assertThat(only(session, Sprayer.class).untilEmpty).isEqualTo(Duration.ofMinutes(45));
    Repair repair = only(session, Repair.class);
    assertThat(repair.cents).isEqualTo(new BigInteger("123456789012345678901234567890"));
    assertThat(repair.screws).containsEntry(Size.SMALL, 12);
    assertThat(((Tractor) Hibernate.unproxy(repair.machine)).horsepower).isEqualTo(60);
    assertThat(shift.getPay().getCents()).isEqualTo(1250);
    assertThat(only(session, Contract.class).person.name).isEqualTo("Ada");
    Team team = only(session, Team.class);
    assertThat(team.courses).containsEntry("Pruning", course);
    assertThat(team.shares.values()).containsExactly(60);
    assertThat(team.errands).extracting(errand -> errand.what).containsExactly("fetch rope");
    ErrandLog log = only(session, ErrandLog.class);
    assertThat(log.tree.tag).isEqualTo("T-1");
    assertThat(log.words).isEqualTo("rope");
    assertThat(only(session, FuelTank.class).litres).isEqualTo(812.25);
  }

  private static <T> T only(Session session, Class<T> type) {
    var builder = session.getCriteriaBuilder().createQuery(type);
    builder.select(builder.from(type));
    List<T> all = session.createQuery(builder).list();
    assertThat(all).hasSize(1);
    return all.get(0);
  }
}
