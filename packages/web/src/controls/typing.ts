/** Whether a key belongs to a field that someone types in. A closed list takes none: its keys are the station's. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    (target instanceof HTMLInputElement && !target.readOnly && !['checkbox', 'radio', 'color', 'range'].includes(target.type)))
