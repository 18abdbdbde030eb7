export { compounds } from './table.ts'
export { namedBits } from './parts.ts'
export { type Compound, type Made, type Part } from './compound.ts'
