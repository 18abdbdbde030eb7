import { hashOfWords, mustHold } from '@moth-lamp/core/base'
import { unpackProject } from '@moth-lamp/core/project'
import { Surface } from '@moth-lamp/core/raster'
import { Workbench } from '@moth-lamp/core/workbench'

/** Hashes of the demo's pages and of its conversation after a minute with touches: the same wherever this runs. */
export function run(fileBase64: string): string[] {
  const { project, assets } = mustHold(unpackProject(Uint8Array.from(atob(fileBase64), (c) => c.charCodeAt(0))))
  const bench = new Workbench(project, assets)
  const out: string[] = []
  for (let k = 0; k < 12; k++) {
    bench.advance(4_000_000)
    bench.rig.panel.touchDown(60 * k + 10, 120 + 25 * k)
    bench.advance(700_000)
    bench.rig.panel.touchUp(60 * k + 10, 120 + 25 * k)
    bench.paint()
  }
  for (const { number } of bench.build.header.pages) {
    const surface = new Surface(bench.build.header.width, bench.build.header.height)
    bench.rig.panel.paintPage(number, surface)
    out.push(hashOfWords(surface.pixels))
  }
  return [...out, bench.rig.conversationHash(), String(bench.build.header.version)]
}
