import type { TimeLimit } from '../definitions/document/rules.ts'

type Allowance = TimeLimit['allowances'][number]

/** Working time in words: `8 h`, `1 h 30 min`, `45 min`. @param minutes a whole number from 0 */
export function workingTimeWords(minutes: number): string {
  const hours = Math.floor(minutes / 60)
  const rest = minutes % 60
  if (rest === 0) return `${hours} h`
  return hours === 0 ? `${rest} min` : `${hours} h ${rest} min`
}

/**
 * The items to which an allowance of a time limit applies, in words.
 *
 * @param titleOf the title of a label or a priority by its identity
 */
export function allowanceWords(
  { label, priority, urgency }: Allowance,
  titleOf: (kind: 'label' | 'priority', id: string) => string,
): string {
  if (label) return `label ${titleOf('label', label)}`
  if (priority) return titleOf('priority', priority)
  return urgency ? `urgency ${urgency}` : 'anything else'
}
