/** As much of logic-solver as the bench uses; the package has no types of its own. */
declare module "logic-solver" {
  namespace Logic {
    type Formula = string | { readonly type?: string };
    interface Bits {
      readonly bits: readonly Formula[];
    }
    class Solver {
      require(...formulas: readonly Formula[]): void;
      solve(): Solution | null;
      minimizeWeightedSum(solution: Solution, formulas: readonly Formula[], weights: number): Solution;
    }
    interface Solution {
      getWeightedSum(formulas: readonly Formula[], weights: number): number;
    }
    function or(...operands: readonly Formula[]): Formula;
    function not(operand: Formula): Formula;
    function implies(one: Formula, other: Formula): Formula;
    function atMostOne(...operands: readonly Formula[]): Formula;
    function sum(...operands: readonly Formula[]): Bits;
    function weightedSum(formulas: readonly Formula[], weights: readonly number[]): Bits;
    function constantBits(value: number): Bits;
    function lessThanOrEqual(one: Bits, other: Bits): Formula;
  }
  export default Logic;
}
