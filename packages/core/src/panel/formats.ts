import type { CompiledConduct } from '../compile/index.ts'
import { plainFormats, type Formats } from '../widgets/index.ts'
import type { Memory } from './memory.ts'

/** How values are written now: worked out once for each pair of units that a panel can show. */
export class FormatsNow {
  private of: CompiledConduct | null = null
  private others = false
  private formats: Formats = plainFormats

  /** The formats of a conduct, in its other units where the variable that asks for them is not 0. */
  now(conduct: CompiledConduct, memory: Memory): Formats {
    const others = conduct.otherUnits !== null && Number(memory.read(conduct.otherUnits).value) !== 0
    if (this.of !== conduct || this.others !== others) {
      this.of = conduct
      this.others = others
      this.formats = { ...conduct, pairs: others ? conduct.units : [] }
    }
    return this.formats
  }
}
