package org.wornladder.change;

import static org.assertj.core.api.Assertions.assertThat;
import static org.wornladder.change.Structures.CODE;
import static org.wornladder.change.Structures.WEIGHT;
import static org.wornladder.change.Structures.table;
import static org.wornladder.change.Structures.view;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.wornladder.schema.Column;
import org.wornladder.schema.Dependency;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Table;
import org.wornladder.schema.View;

/** What a change is, without an engine: its inverse, what it loses, and what comes before what. */
class SchemaChangeTest {
  private static final Table BIN = table("bin", List.of(CODE, WEIGHT));
  private static final Table SLIM = table("bin", List.of(CODE));

  private static final List<SchemaChange> ALL =
      List.of(
          new SchemaChange.Create(BIN),
          new SchemaChange.Drop(BIN),
          new SchemaChange.Alter(BIN, SLIM),
          new SchemaChange.Rebuild(BIN, SLIM),
          new SchemaChange.RenameTable(BIN.id(), ObjectId.of(Kind.TABLE, "crate")),
          new SchemaChange.AddPart(BIN.id(), WEIGHT),
          new SchemaChange.DropPart(BIN.id(), WEIGHT),
          new SchemaChange.AlterPart(BIN.id(), WEIGHT, CODE),
          new SchemaChange.RenameColumn(BIN.id(), "kg", "weight_kg"));

  @Test
  void theInverseOfTheInverseIsTheSame() {
    assertThat(ALL).allSatisfy(one -> assertThat(one.inverse().inverse()).isEqualTo(one));
  }

  @Test
  void whatHoldsRowsLosesThem() {
    assertThat(ALL.stream().flatMap(one -> one.loss().stream()))
        .containsExactly(
            "the rows of bin", "the values of weight_kg in bin", "the values of weight_kg in bin");
    Column computed =
        new Column("twice", "integer", true, Optional.empty(), Map.of("generated", "(code)"));
    assertThat(new SchemaChange.DropPart(BIN.id(), computed).loss()).isEmpty();
  }

  private static View on(String name, ObjectId... needed) {
    return (View)
        view(name, "CREATE VIEW " + name)
            .dependingOn(List.of(needed).stream().map(id -> Dependency.inText(id, "")).toList());
  }

  private static List<SchemaChange> order(List<SchemaChange> changes, List<View> before) {
    ChangeGraph.Order order = ChangeGraph.order(changes, DependencyIndex.of(List.copyOf(before)));
    assertThat(order.circular()).isEmpty();
    return order.ordered();
  }

  @Test
  void whatDependsGoesFirstAndComesLast() {
    View base = on("z_base");
    View middle = on("m_middle", base.id());
    View top = on("a_top", middle.id());
    List<View> all = List.of(top, base, middle);
    assertThat(
            order(
                all.stream().map(SchemaChange.Drop::new).map(SchemaChange.class::cast).toList(),
                all))
        .extracting(one -> one.target().name())
        .containsExactly("a_top", "m_middle", "z_base");
    assertThat(
            order(
                all.stream().map(SchemaChange.Create::new).map(SchemaChange.class::cast).toList(),
                List.of()))
        .extracting(one -> one.target().name())
        .containsExactly("z_base", "m_middle", "a_top");
  }

  @Test
  void anOldObjectGoesBeforeANewOneOfItsName() {
    View old = on("stock");
    Table now = table("STOCK", List.of(CODE));
    assertThat(
            order(List.of(new SchemaChange.Create(now), new SchemaChange.Drop(old)), List.of(old)))
        .extracting(one -> one.getClass().getSimpleName())
        .containsExactly("Drop", "Create");
  }

  @Test
  void thosePartsOfATableGoFirstThatHoldOthers() {
    ObjectId bin = BIN.id();
    List<SchemaChange> changes =
        List.of(
            new SchemaChange.AddPart(bin, Structures.index("i", "(weight_kg)")),
            new SchemaChange.AddPart(bin, WEIGHT),
            new SchemaChange.DropPart(bin, CODE),
            new SchemaChange.DropPart(bin, Structures.index("j", "(code)")));
    assertThat(order(changes, List.of()))
        .extracting(one -> one.getClass().getSimpleName())
        .containsExactly("DropPart", "DropPart", "AddPart", "AddPart");
    assertThat(order(changes, List.of()).get(0)).isEqualTo(changes.get(3));
    assertThat(order(changes, List.of()).get(2)).isEqualTo(changes.get(1));
  }

  @Test
  void aCircleIsNamed() {
    View one = on("one", ObjectId.of(Kind.VIEW, "two"));
    View two = on("two", one.id());
    ChangeGraph.Order order =
        ChangeGraph.order(
            List.of(new SchemaChange.Create(one), new SchemaChange.Create(two)),
            DependencyIndex.of(List.of()));
    assertThat(order.ordered()).isEmpty();
    assertThat(order.circular())
        .extracting(change -> change.target().name())
        .contains("one", "two");
  }
}
