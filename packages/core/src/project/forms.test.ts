import { describe, expect, test } from 'vitest'
import { mustHold, sameJson } from '../base/index.ts'
import { demo, edited, widgetNamed } from '../testing/demo.ts'
import { registerWidgetKind, widgetKind } from '../widgets/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { currentForm, formOf, migrate, migrateRequest, packProject, passGate, unpackProject, validateProject } from './index.ts'

type Loose = Record<string, unknown>
const { project, assets } = demo
const copy = (): Loose => JSON.parse(JSON.stringify(project)) as Loose
const codeOf = (result: { ok: boolean; problem?: { code: string } }) => (result.ok ? 'good' : result.problem!.code)

/** Every place in the document where settings stand, as a way to get there. */
function places(document: Loose): Loose[] {
  const of = (map: unknown) => Object.values(map as Record<string, Loose>).map((r) => r['settings'] as Loose)
  const host = document['host'] as Loose
  const exchanges = Object.values(document['exchanges'] as Record<string, Loose>)
  return [
    ...of(document['widgets']),
    ...of(host['quantities']),
    ...of(host['reactions']),
    ...of(host['outputs']),
    ...exchanges.flatMap((e) => of(e['steps'])),
  ]
}

describe('a stored form that grows', () => {
  test('a setting that a kind has gained locks no file, no document and no edit', () => {
    const file = packProject(project, assets)
    const button = widgetKind('button')!
    const glow = { label: 'Glow', type: t.whole, default: 3, group: 'Looks' }
    const back = registerWidgetKind({ ...button, settings: described({ ...button.settings.fields, glow }) })
    try {
      const opened = mustHold(unpackProject(file)).project
      const first = Object.values(opened.widgets).find((w) => w.kind === 'button')!
      expect(first.settings['glow']).toBe(3)
      // A document that is already in memory, or whose changes were stored before, is edited as well.
      const moved = edited(project, 'place widgets', { places: { [first.id]: { ...first.place, x: first.place.x + 1 } } })
      expect(moved.widgets[first.id]!.place.x).toBe(first.place.x + 1)
    } finally {
      back()
      registerWidgetKind(button)
    }
  })
  test('any setting of any record may be missing: it is filled from its default', () => {
    let tried = 0
    const whole = copy()
    for (const [i, settings] of places(whole).entries())
      for (const key of Object.keys(settings)) {
        if (tried++ % 23) continue
        const document = copy()
        delete places(document)[i]![key]
        const filled = mustHold(validateProject(document)) as unknown as Loose
        expect(places(filled)[i]).toHaveProperty(key)
        expect(mustHold(validateProject(filled))).toEqual(filled)
      }
    expect(tried).toBeGreaterThan(700)
  })
  test.each(['link', 'panel', 'host', 'exchanges', 'typefaceOrder', 'note'])(
    'what the document has gained besides: %s',
    (key) => {
      const document = copy()
      if (key === 'exchanges') document['exchangeOrder'] = []
      if (key === 'typefaceOrder') document['typefaces'] = {}
      const widgets = document['widgets'] as Record<string, { settings: Loose }>
      if (key === 'typefaceOrder')
        for (const w of Object.values(widgets))
          for (const k of ['font', 'labelFont']) if (w.settings[k]) w.settings[k] = { typeface: '', size: 20 }
      if (key === 'typefaceOrder') delete document['styles']
      if (key === 'host') document['host'] = undefined
      delete document[key]
      expect(mustHold(validateProject(document))).toHaveProperty(key)
    },
  )
  test.each(['link', 'panel'])('every key of %s', (part) => {
    for (const key of Object.keys(project[part as 'link'])) {
      const document = copy()
      delete (document[part] as Loose)[key]
      expect(mustHold(validateProject(document))[part as 'link']).toHaveProperty(key)
    }
  })
  test('a new kind of event or reason gets its plain code, or a free one', () => {
    const document = copy()
    const forms = (
      document['layout'] as { toPanel: { forms: { operation: string; parts: { codes: Record<string, number> }[] }[] } }
    ).toPanel.forms
    const refused = forms.find((f) => f.operation === 'refused')!.parts[0]!
    delete refused.codes['busy']
    refused.codes['value'] = 6
    delete forms.find((f) => f.operation === 'event')!.parts[0]!.codes['held']
    const filled = mustHold(validateProject(document)).layout.toPanel.forms
    const codes = (operation: string) =>
      (filled.find((f) => f.operation === operation)!.parts[0] as unknown as { codes: Record<string, number> }).codes
    expect(codes('event')['held']).toBe(3)
    expect(codes('refused')).toMatchObject({ value: 6, busy: 0 })
  })
  test('what was never there and is not known is still refused', () => {
    expect(codeOf(validateProject({ ...copy(), more: 1 }))).toBe('gate.schema')
    const { layout: _, ...without } = copy()
    expect(codeOf(validateProject(without))).toBe('gate.schema')
  })
})

describe('items of lists', () => {
  const choice = (...choices: unknown[]) => ({ holds: { type: 'choice', choices } })
  const stored = (...choices: unknown[]) =>
    passGate(project, {
      changeId: 'change:i',
      edit: 'add variable',
      args: { id: 'variable:i', values: choice(...choices) },
    })
  test('have ids, which the gate gives to those that come without', () => {
    const done = mustHold(
      stored({ value: 1, word: 'one' }, { id: 'choice:1', value: 2, word: 'two' }, { value: 3, word: 'three' }),
    )
    const { holds } = done.project.variables['variable:i' as never] as unknown as { holds: { choices: { id: string }[] } }
    expect(holds.choices.map((c) => c.id)).toEqual(['choice:2', 'choice:1', 'choice:3'])
  })
  test('no id twice in a list, and none of another kind', () => {
    expect(codeOf(stored({ id: 'choice:a', value: 1, word: 'a' }, { id: 'choice:a', value: 2, word: 'b' }))).toBe('gate.schema')
    expect(codeOf(stored({ id: 'state:a', value: 1, word: 'a' }))).toBe('gate.schema')
  })
  test('every list of the demo has them', () => {
    const document = copy()
    const lists: { id?: string }[][] = []
    const walk = (value: unknown): void => {
      if (typeof value !== 'object' || value === null) return
      if (Array.isArray(value) && value.length && typeof value[0] === 'object') lists.push(value as never)
      Object.values(value).forEach(walk)
    }
    walk(document)
    expect(lists.length).toBeGreaterThan(20)
    for (const list of lists) expect(new Set(list.map((item) => item.id)).size).toBe(list.length)
  })
})

describe('older and newer forms', () => {
  test('a newer form, no form and no document are refused in words', () => {
    expect(codeOf(migrate({ format: currentForm + 1 }))).toBe('file.form')
    expect(codeOf(migrate({ name: 'x' }))).toBe('file.form')
    expect(codeOf(migrate({ format: -1 }))).toBe('file.form')
    expect(codeOf(migrate([]))).toBe('file.damaged')
    expect(codeOf(migrate(null))).toBe('file.damaged')
    expect(codeOf(migrate({ format: 1 }))).toBe('file.damaged')
    expect([formOf({ format: 2 }), formOf({ format: 1.5 }), formOf(7)]).toEqual([2, 0, 0])
  })
  test('an undo that waited under form 2 undoes under form 3: records and lists are as they are now', () => {
    const target = widgetNamed(project, 'Target')
    const { parent: _, ...asFormTwoHadIt } = target
    const variable = Object.values(project.variables).find((v) => v.holds.type === 'choice')!
    const bare = (holds: unknown) => ({
      ...(holds as Loose),
      choices: (holds as { choices: { value: number; word: string }[] }).choices.map(({ value, word }) => ({ value, word })),
    })
    const now = edited(project, 'set variable', {
      id: variable.id,
      values: { holds: { type: 'choice', choices: [{ value: 9, word: 'nine' }] } },
    })
    const request = {
      changeId: 'change:u' as const,
      edit: 'undo',
      args: {
        of: 'change:x',
        patches: [{ op: 'replace', path: `/variables/${variable.id}/holds/choices`, value: bare(variable.holds)['choices'] }],
        left: [
          { op: 'replace', path: `/variables/${variable.id}/holds/choices`, value: [{ value: 9, word: 'nine' }] },
          { op: 'add', path: `/widgets/${target.id}`, value: asFormTwoHadIt },
        ],
      },
    }
    expect(codeOf(passGate(now, request))).toBe('edit.changed-since')
    const undone = mustHold(passGate(now, mustHold(migrateRequest(request, 2)))).project
    expect(sameJson(undone.variables[variable.id]!.holds, project.variables[variable.id]!.holds)).toBe(true)
    expect(codeOf(migrateRequest(request, currentForm + 1))).toBe('file.form')
    expect(migrateRequest(request, currentForm)).toEqual({ ok: true, value: request })
  })
  test('actions, codes of events and settings that name an event come over from form 2, wherever they stand', () => {
    const old = (on: string, deed: unknown, repeatMs = 0) => ({ on, deed, repeatMs })
    const actions = [
      old('press', { do: 'step', variable: 'variable:a', by: 1, atEnd: 'stop' }, 150),
      old('release inside', { do: 'go to page', page: 'page:a' }),
      old('release outside', { do: 'one while pressed', variable: 'variable:a' }),
      { id: 'rule:h', ...old('hold', { do: 'send event' }) },
    ]
    const now = [
      {
        on: { moment: 'pressed', everyMs: 150 },
        lines: [{ action: 'step', with: { variable: 'variable:a', by: 1, atEnd: 'stop' } }],
      },
      { on: { moment: 'lifted', everyMs: 0 }, lines: [{ action: 'go to page', with: { page: 'page:a' } }] },
      { on: { moment: 'pressed', everyMs: 0 }, lines: [{ action: 'while held', with: { variable: 'variable:a' } }] },
      { id: 'rule:h', on: { moment: 'held', everyMs: 0 }, lines: [{ action: 'send event', with: {} }] },
    ]
    const document = mustHold(
      migrate({
        format: 2,
        panel: { width: 320 },
        variables: {
          'variable:n': { holds: { type: 'u32' } },
          'variable:t': { holds: { type: 'text' } },
        },
        widgets: { 'widget:a': { settings: { actions } } },
        layout: {
          payloadOrder: 'low',
          wordOrder: 'high',
          forms: [{ parts: [{ part: 'what', codes: { pressed: 1, 'released inside': 7, held: 3, 'released outside': 4 } }] }],
        },
        exchanges: { e: { steps: { s: { kind: 'expect event', settings: { what: 'released outside' } } } } },
      }),
    )
    expect(document).toMatchObject({
      panel: { width: 320, order: 'high' },
      variables: { 'variable:n': { holds: {} }, 'variable:t': { order: 'low' } },
      widgets: { 'widget:a': { settings: { rules: now } } },
      layout: {
        toPanel: { payload: 'low', forms: [{ parts: [{ codes: { pressed: 1, lifted: 7, held: 3, 'slid off': 4 } }] }] },
      },
      exchanges: { e: { steps: { s: { settings: { what: 'slid off' } } } } },
    })
    const request = (edit: string, args: unknown) => mustHold(migrateRequest({ changeId: 'change:r', edit, args }, 2)).args
    expect(request('set widgets', { ids: ['widget:a'], values: { actions } })).toEqual({
      ids: ['widget:a'],
      values: { rules: now },
    })
    expect(
      mustHold(migrateRequest({ changeId: 'change:r', edit: 'set layout', args: { values: { wordOrder: 'high' } } }, 2)),
    ).toMatchObject({
      edit: 'set panel',
      args: { values: { order: 'high' } },
    })
    expect(request('set layout', { values: { payloadOrder: 'high', name: 'x' } })).toEqual({
      values: { 'toPanel/payload': 'high', name: 'x' },
    })
    const moved = { of: 'change:x', left: [], patches: [{ op: 'replace', path: '/layout/wordOrder', value: 'low' }] }
    expect(request('undo', moved)).toMatchObject({ patches: [{ path: '/panel/order', value: 'low' }] })
    const patches = [
      { op: 'replace', path: '/widgets/widget:a/settings/actions', value: actions },
      { op: 'replace', path: '/exchanges/e/steps/s/settings/what', value: 'released inside' },
    ]
    expect(request('undo', { of: 'change:x', patches, left: [] })).toMatchObject({
      patches: [{ value: now.map((action, k) => ({ id: `rule:${k + 1}`, ...action })) }, { value: 'lifted' }],
    })
  })
})

describe('what a widget belongs to', () => {
  const [one, two] = [
    widgetNamed(project, 'Target'),
    Object.values(project.widgets).find((w) => w.page !== widgetNamed(project, 'Target').page)!,
  ]
  const withParent = (id: string, parent: string) => {
    const document = copy()
    ;(document['widgets'] as Record<string, Loose>)[id]!['parent'] = parent
    return validateProject(document)
  }
  test('is a widget of the same page, and going up never comes round', () => {
    const sibling = project.pages[one.page]!.widgets.find((id) => id !== one.id)!
    expect(codeOf(withParent(one.id, sibling))).toBe('good')
    expect(codeOf(withParent(one.id, two.id))).toBe('gate.dangling')
    expect(codeOf(withParent(one.id, one.id))).toBe('gate.dangling')
    expect(codeOf(withParent(one.id, 'widget:nowhere'))).toBe('gate.dangling')
  })
  test('when it is deleted, what belonged to it belongs to what it belonged to', () => {
    const sibling = project.pages[one.page]!.widgets.find((id) => id !== one.id)!
    const grouped = mustHold(withParent(one.id, sibling))
    expect(edited(grouped, 'delete widgets', { ids: [sibling] }).widgets[one.id]!.parent).toBe('')
  })
})
