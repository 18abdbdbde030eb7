export { calculate, scaleRows, type Calculation, type CalculatorGroup, type CalculatorRow } from './calculator.ts'
