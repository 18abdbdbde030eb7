import { hashOfWords, mustHold } from '@moth-lamp/core/base'
import { unpackProject } from '@moth-lamp/core/project'
import { Surface } from '@moth-lamp/core/raster'
import { Workbench } from '@moth-lamp/core/workbench'

/** Hashes of the pages of a project, and of its conversation after touches and an hour: the same wherever this runs. */
export function run(fileBase64: string): string[] {
  const { project, assets } = mustHold(unpackProject(Uint8Array.from(atob(fileBase64), (c) => c.charCodeAt(0))))
  const bench = new Workbench(project, assets)
  const { width, height } = bench.build.header
  const out: string[] = []
  for (let k = 0; k < 12; k++) {
    bench.advance(4_000_000)
    const [x, y] = [Math.floor((width * (k + 0.5)) / 12), Math.floor((height * (((k * 5) % 12) + 0.5)) / 12)]
    bench.rig.panel.touchDown(x, y)
    bench.advance(700_000)
    bench.rig.panel.touchUp(x, y)
    bench.paint()
  }
  bench.advance(3_600_000_000)
  bench.paint()
  for (const { number } of bench.build.header.pages) {
    const surface = new Surface(width, height)
    bench.rig.panel.onDesk.paintPage(number, surface)
    out.push(hashOfWords(surface.pixels))
  }
  return [...out, bench.rig.conversationHash(), String(bench.build.header.version)]
}
