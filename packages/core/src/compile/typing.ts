import type { Project, Widget } from '../project/index.ts'
import { factsOf } from '../rules/index.ts'
import { rawOf, widgetKind } from '../widgets/index.ts'

const keysOf = new WeakMap<Widget, string>()

/** The letters that a key of a keypad types. */
function typedBy(widget: Widget): string {
  let keys = keysOf.get(widget)
  if (keys === undefined) {
    const lines = (rawOf(widget).rules ?? []).flatMap((rule) => rule.lines)
    const typed = lines.flatMap((line) => factsOf(line).types ?? [])
    // A text longer than a character is the name of a key's function.
    keys = typed.filter((key) => [...key].length === 1).join('')
    keysOf.set(widget, keys)
  }
  return keys
}

/**
 * Every letter that a keypad may need to show what is typed: those of the widgets that are typed into, and those of all keys; in
 * the order of code points.
 */
export function typedLetters(project: Project): string {
  const letters = new Set<string>()
  const holdsOf = (id: string) => project.variables[id as keyof typeof project.variables]?.holds ?? null
  const add = (text: string) => {
    for (const letter of text) letters.add(letter)
  }
  for (const widget of Object.values(project.widgets)) {
    add(typedBy(widget))
    const kind = widgetKind(widget.kind)
    if (!kind?.typingLetters) continue
    add(kind.typingLetters(widget.settings, holdsOf))
    // The value before it is typed over.
    for (const { ref } of kind.settings.refs(widget.settings)) {
      const { initial } = project.variables[ref.to as keyof typeof project.variables] ?? {}
      if (typeof initial === 'string') add(initial)
    }
  }
  return [...letters].sort().join('')
}
