import type { FormEntry } from '../api/types.ts'

/** Whether a field that waits for another is shown, given what that other holds: a value, a choice, or several. */
export function isShown(shownWhen: FormEntry['shownWhen'], held: (field: string) => unknown): boolean {
  if (!shownWhen) return true
  const value = held(shownWhen.field)
  const ids = (Array.isArray(value) ? value : [value]).map((one: unknown) => (typeof one === 'object' && one !== null && 'id' in one ? one.id : one))
  return ids.some((one) => shownWhen.values.includes(one as string | boolean))
}
