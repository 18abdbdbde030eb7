import { PNG } from 'pngjs'
import { MadeChunks } from '@moth-lamp/core/artwork'
import { Compiler } from '@moth-lamp/core/compile'
import { lampBinary } from '@moth-lamp/core/frames'
import { layoutProblems } from '@moth-lamp/core/protocols'
import { VirtualClock } from '@moth-lamp/core/base'
import { Panel } from '@moth-lamp/core/panel'
import { firstPage, type Assets, type Project } from '@moth-lamp/core/project'
import { expand565, Surface } from '@moth-lamp/core/raster'

/** The page of a project that one works on first, with the values it begins with, as a PNG of the glass. */
export function pictureOf(project: Project, assets: Assets): Buffer {
  const usable = layoutProblems(project.layout).length ? { ...project, layout: lampBinary } : project
  const build = new Compiler(new MadeChunks(assets)).compile({ ...usable, startPage: firstPage(usable) })
  const panel = new Panel(build, new VirtualClock(), {
    send: () => 0,
    heard: () => undefined,
    beside: () => undefined,
  })
  const { width, height } = build.header
  const surface = new Surface(width, height)
  const page = build.header.pages.find((p) => p.number === build.header.startPage)
  if (page) panel.desk.paintPage(page, surface)
  const { pixels } = surface
  const png = new PNG({ width, height, colorType: 2 })
  for (let i = 0; i < pixels.length; i++) {
    const { red, green, blue } = expand565(pixels[i]!)
    png.data.set([red, green, blue, 255], i * 4)
  }
  return PNG.sync.write(png)
}
