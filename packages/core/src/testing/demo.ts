import { readFileSync } from 'node:fs'
import { mustHold } from '../base/index.ts'
import { passGate, unpackProject, type Project } from '../project/index.ts'

const shipped = (name: string) => new Uint8Array(readFileSync(new URL(`../../../server/demo/${name}.mothlamp`, import.meta.url)))

/** The demo, read from the file it is shipped as. */
export const demoFile = shipped('heron-hill-dome')
export const demo = mustHold(unpackProject(demoFile))

/** The other one, of another size, on a slower line. */
export const otherDemo = mustHold(unpackProject(shipped('quay-ramp-remote')))

/** The page of the demo that one works on: the first, after the splash. */
export const dome = demo.project.pageOrder[0]!

let n = 0
/** Does an edit that must apply. */
export function edited(project: Project, edit: string, args: unknown): Project {
  return mustHold(passGate(project, { changeId: `change:test${n++}`, edit, args })).project
}

export const widgetNamed = (project: Project, name: string) => Object.values(project.widgets).find((w) => w.name === name)!
