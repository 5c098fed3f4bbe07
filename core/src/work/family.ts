import { entriesOf } from '../definitions/rulebook/resolve.ts'
import { offeredOf } from '../definitions/rulebook/rulebook.ts'
import { invalid, type Refusal } from './refusal.ts'
import type { WorkRules } from './rules.ts'

/** Of a family that is pick one, the label given last replaces the ones before. */
export function pickOne(
  { document, labels }: WorkRules,
  given: readonly string[],
  before: readonly string[],
): string[] {
  const familyOf = (label: string): string | null => labels.get(label)?.family ?? null
  const isSingle = (family: string | null): family is string =>
    family !== null && document.families[family]?.pick === 'one'
  const fresh = given.filter((label) => !before.includes(label))
  const kept = new Map<string, string>()
  for (const label of [...given.filter((text) => before.includes(text)), ...fresh]) {
    const family = familyOf(label)
    if (isSingle(family)) kept.set(family, label)
  }
  return given.filter((label) => {
    const family = familyOf(label)
    return !isSingle(family) || kept.get(family) === label
  })
}

/** Refuses an item that holds no label of a family of which its type must hold one. */
export function judgeFamilies(
  { document, labels }: WorkRules,
  rulebook: string,
  type: string,
  held: readonly string[],
): Refusal | undefined {
  const entries = entriesOf(document, rulebook)
  const families = new Set(held.map((label) => labels.get(label)?.family))
  const missing = offeredOf(document, rulebook, 'family').filter(
    (family) =>
      entries.get(`family:${family}`)?.requiredFor?.includes(type) && !families.has(family),
  )
  if (missing.length === 0) return undefined
  const offered = (family: string): string =>
    [...labels.values()]
      .filter((label) => label.family === family && !label.retired)
      .map((label) => label.title)
      .slice(0, 10)
      .join(', ')
  return invalid(
    missing.map((family) => ({
      pointer: '/labels',
      message: `${document.types[type]?.title ?? type} needs a label of “${document.families[family]?.title ?? family}”.`,
      expected: offered(family),
    })),
  )
}
