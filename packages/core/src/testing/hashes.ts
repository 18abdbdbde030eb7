import { hashOfWords } from '../base/index.ts'
import type { Assets, Project } from '../project/index.ts'
import { Rig } from '../rig/index.ts'
import { Workbench } from '../workbench/index.ts'

/**
 * The stamp every build has here. Its own is made of everything in its header, so that whatever a build gains changes it:
 * with it the bytes of the report it is in, and nothing else.
 */
const stamp = 0x1234

/** Behaviour of a project in hashes: what must stay the same for as long as nobody means to change it. */
export interface Hashes {
  /** Each page by name, as the desk shows it after the run. */
  pages: Record<string, string>
  /** The glass after the run. */
  glass: string
  /** Every frame of the run with its instants, the build stamped alike. */
  conversation: string
  /** Each exchange by name, with how its steps ended. */
  verdicts: Record<string, string>
}

/** Runs a project for 48 s of its clock with twelve touches across the glass, and all its exchanges. */
export function hashesOf(project: Project, assets: Assets): Hashes {
  const bench = new Workbench(project, assets)
  bench.rig = new Rig({ ...bench.build, header: { ...bench.build.header, version: stamp } }, bench.hostBuild, 7)
  // The clock of the panel began at midnight when the first of these were kept; now nobody knows the time until it is set.
  bench.rig.panel.memory.setOwn('clock', 0)
  const { width, height } = bench.build.header
  for (let k = 0; k < 12; k++) {
    const [x, y] = [Math.floor((width * (k + 0.5)) / 12), Math.floor((height * (((k * 5) % 12) + 0.5)) / 12)]
    bench.advance(3_300_000)
    bench.rig.panel.touchDown(x, y)
    bench.advance(700_000)
    bench.rig.panel.touchUp(x, y)
    bench.paint()
  }
  const pages: Record<string, string> = {}
  for (const id of project.pageOrder) pages[project.pages[id]!.name] = hashOfWords(bench.paintPage(id)!.pixels)
  const verdicts: Record<string, string> = {}
  for (const id of project.exchangeOrder) {
    const result = bench.runExchange(id)!
    verdicts[project.exchanges[id]!.name] =
      `${result.passed ? 'passed' : 'failed'}: ${result.steps.map((s) => s.status).join(' ')}`
  }
  return { pages, glass: hashOfWords(bench.rig.panel.glass.surface.pixels), conversation: bench.rig.conversationHash(), verdicts }
}
