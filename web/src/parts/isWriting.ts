/** Whether keys that reach an element are meant for what is written in it. */
export const isWriting = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target.matches('input:not([type=checkbox]), textarea, [role=combobox]'))
