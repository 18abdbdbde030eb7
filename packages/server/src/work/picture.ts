import { PNG } from 'pngjs'
import { MadeChunks } from '@moth-lamp/core/artwork'
import { Compiler } from '@moth-lamp/core/compile'
import { checkLayout, lampBinary } from '@moth-lamp/core/frames'
import { VirtualClock } from '@moth-lamp/core/base'
import { Panel } from '@moth-lamp/core/panel'
import type { Assets, Project } from '@moth-lamp/core/project'
import { expand565 } from '@moth-lamp/core/raster'

/** The start page of a project at power-on, as a PNG of the glass. */
export function pictureOf(project: Project, assets: Assets): Buffer {
  const usable = checkLayout(project.layout).length ? { ...project, layout: lampBinary } : project
  const panel = new Panel(new Compiler(new MadeChunks(assets)).compile(usable), new VirtualClock(), {
    send: () => 0,
    heard: () => undefined,
    beside: () => undefined,
  })
  panel.paint()
  const { width, height, pixels } = panel.glass.surface
  const png = new PNG({ width, height, colorType: 2 })
  for (let i = 0; i < pixels.length; i++) {
    const { red, green, blue } = expand565(pixels[i]!)
    png.data.set([red, green, blue, 255], i * 4)
  }
  return PNG.sync.write(png)
}
