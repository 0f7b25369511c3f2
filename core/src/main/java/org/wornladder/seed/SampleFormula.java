package org.wornladder.seed;

import com.ezylang.evalex.BaseException;
import com.ezylang.evalex.Expression;
import com.ezylang.evalex.parser.ParseException;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.ProjectException;
import org.wornladder.project.Sample;
import org.wornladder.project.Sample.Maker;

/** A number computed from other columns of a row. */
final class SampleFormula {
  private final Sample.Column column;
  private final Maker.Formula formula;
  private final Expression expression;
  private final List<String> names;

  /**
   * @param columns the names that it may use
   * @throws ProjectException if it cannot be read
   */
  SampleFormula(Sample.Column column, Maker.Formula formula, List<String> columns) {
    this.column = column;
    this.formula = formula;
    try {
      expression = new Expression(formula.expression());
      names =
          expression.getUsedVariables().stream()
              .map(used -> named(used, columns))
              .distinct()
              .toList();
    } catch (NoClassDefFoundError e) {
      throw ProjectException.of(
          column.place(),
          "the library of formulas is not on the class path",
          "add com.ezylang:EvalEx to the dependencies of the program");
    } catch (ParseException e) {
      throw wrong(e.getMessage());
    }
  }

  private String named(String used, List<String> columns) {
    return columns.stream()
        .filter(name -> name.equalsIgnoreCase(used))
        .findFirst()
        .orElseThrow(() -> wrong(used + " is not among the columns"));
  }

  private ProjectException wrong(String reason) {
    return ProjectException.of(
        column.place(),
        "the formula of " + column.name() + " cannot be computed: " + reason,
        "write one such as quantity * price");
  }

  /** The columns that it is computed from. */
  List<String> needs() {
    return names;
  }

  /** Its value; empty if one of the columns is NULL. */
  Optional<String> value(Map<String, String> row) {
    try {
      for (String name : names) {
        if (row.get(name) == null) {
          return Optional.empty();
        }
        expression.with(name, new BigDecimal(row.get(name)));
      }
      BigDecimal value = expression.evaluate().getNumberValue();
      return Optional.of(value.setScale(formula.decimals(), RoundingMode.HALF_UP).toPlainString());
    } catch (NumberFormatException e) {
      throw wrong("a column that it uses is no number");
    } catch (BaseException e) {
      throw wrong(e.getMessage());
    }
  }
}
