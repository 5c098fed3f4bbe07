import type { Field } from '@bluestem/core/definitions'
import { counted } from '../../parts/words.ts'

/** The kind of a field, with what one value of it is. */
export function kindWords(field: Field): string {
  const { kind, options = {}, unit, decimals, rollUp } = field
  switch (kind) {
    case 'choice':
      return `choice of ${Object.keys(options).length}`
    case 'several choices':
      return `several of ${Object.keys(options).length}`
    case 'number':
      return ['number', unit, decimals === undefined ? undefined : counted(decimals, 'decimal')]
        .filter(Boolean)
        .join(', ')
    case 'yes/no':
      return 'yes or no'
    case 'roll-up':
      return `roll-up: ${rollUp?.how ?? ''}`
    default:
      return kind
  }
}

function defaultWords({ default: standard, options = {} }: Field): unknown {
  const titleOf = (id: string): string => options[id]?.title ?? id
  if (Array.isArray(standard)) return standard.map(titleOf).join(', ')
  return typeof standard === 'string' ? titleOf(standard) : standard
}

function emptyWords({ formula, empty }: Field): string | undefined {
  if (formula === undefined) return undefined
  return empty === null || empty === undefined ? 'no score' : `count as ${empty}`
}

/** What a field asks of its values, each by its name. */
export function ruleWords(field: Field): readonly (readonly [name: string, words: string])[] {
  const rules: readonly (readonly [string, unknown])[] = [
    ['unit', field.unit],
    ['smallest', field.smallest],
    ['largest', field.largest],
    ['pattern', field.pattern],
    ['formula', field.formula],
    ['empty parts', emptyWords(field)],
    ['of', field.rollUp?.of],
    ['a new item gets', defaultWords(field)],
  ]
  return rules
    .filter(([, value]) => value !== undefined)
    .map(([name, value]) => [name, String(value)] as const)
}
