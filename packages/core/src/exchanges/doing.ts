import { fromHex } from '../base/index.ts'
import { parseValues } from '../protocols/index.ts'
import type { CompiledStepOf, StepKind } from '../scripts/index.ts'
import { fail, withValue, type Outcome, type Slices, type Watch } from './watch.ts'

// How the steps that do something do it.

type Of<K extends StepKind> = CompiledStepOf<K>['settings']

function sendBytes(w: Watch, text: string): Outcome {
  const bytes = fromHex(text)
  if (!bytes.ok) return { problem: bytes.problem }
  w.rig.sendRaw('to panel', bytes.value)
  return null
}

function sendCommand(w: Watch, s: Of<'host sends command'>): Outcome {
  const command = w.command(s.command!)
  if (!command) return fail('command.gone', {})
  const values = parseValues(command, s.values)
  if (!values.ok) return fail('value', { value: s.values, why: values.problem.code })
  const problem = w.rig.host.command(command.number, values.value)
  return problem ? { problem } : null
}

function trouble(w: Watch, s: Of<'trouble'>): Outcome {
  const { rig } = w
  switch (s.what) {
    case 'lose frames to the host':
      rig.line.trouble.lose['to host'] = s.count
      break
    case 'lose frames to the panel':
      rig.line.trouble.lose['to panel'] = s.count
      break
    default:
      rig.host.silent = s.what === 'host falls silent'
  }
  return null
}

function* touch(w: Watch, s: Of<'touch'>): Slices<Outcome> {
  const { rig } = w
  const number = s.widget!
  const gesture = s.gesture
  if (gesture === 'release') return release(w)
  for (let k = 0; k < s.times; k++) {
    const point = rig.panel.pointOn(number)
    if ('why' in point) return fail(`touch.${point.why}`, { by: point.by })
    rig.panel.touchDown(point.x, point.y)
    w.finger = point
    if (gesture === 'press') break
    if (gesture === 'drag') yield* drag(w, s.dx, s.dy, s.holdMs)
    else yield* w.pass(s.holdMs * 1000)
    release(w)
    if (s.times > 1) yield* w.pass(80_000)
  }
  return null
}

function* drag(w: Watch, dx: number, dy: number, ms: number): Slices<void> {
  const from = w.finger!
  for (let k = 1; k <= 10; k++) {
    yield* w.pass(ms * 100)
    w.finger = { x: from.x + Math.round((dx * k) / 10), y: from.y + Math.round((dy * k) / 10) }
    w.rig.panel.touchMove(w.finger.x, w.finger.y)
  }
}

function release(w: Watch): Outcome {
  if (!w.finger) return fail('touch.no-finger', {})
  w.rig.panel.touchUp(w.finger.x, w.finger.y)
  w.finger = null
  return null
}

/** A step that is done at once, as one slice. */
function* at(run: () => Outcome | void): Slices<Outcome> {
  const outcome = run() ?? null
  yield
  return outcome
}

/** By the kind of step. */
export const doing = {
  touch,
  'host writes': (w: Watch, s: Of<'host writes'>) => withValue(s, (cell, value) => at(() => w.rig.host.write(cell, value))),
  'host asks': (w: Watch, { variable }: Of<'host asks'>) => at(() => w.rig.host.ask(variable!)),
  'host sends bytes': (w: Watch, { bytes }: Of<'host sends bytes'>) => at(() => sendBytes(w, bytes)),
  'host sends command': (w: Watch, s: Of<'host sends command'>) => at(() => sendCommand(w, s)),
  *wait(w: Watch, { ms }: Of<'wait'>): Slices<Outcome> {
    yield* w.pass(ms * 1000)
    return null
  },
  'power cycle': (w: Watch, { which }: Of<'power cycle'>) => at(() => w.rig.powerCycle(which)),
  trouble: (w: Watch, s: Of<'trouble'>) => at(() => trouble(w, s)),
}
