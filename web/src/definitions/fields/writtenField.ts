import { elementAt } from '@bluestem/core/known'
import {
  type Field,
  type FieldKind,
  type FieldPart,
  fieldParts,
  hasPart,
  inOrder,
  isComputed,
  type Option,
  orderKeys,
} from '@bluestem/core/definitions'

export type EditedOption = Option & { readonly id: string }

type RollUp = NonNullable<Field['rollUp']>

/** A field as its form holds it: every part that any kind has. */
export interface WrittenField {
  title: string
  handle: string
  kind: FieldKind
  description: string
  unit: string
  decimals: number
  smallest: number | undefined
  largest: number | undefined
  pattern: string
  default: Field['default']
  formula: string
  empty: number | null
  how: RollUp['how']
  of: string
  options: EditedOption[]
}

const blank: WrittenField = {
  title: '',
  handle: '',
  kind: 'text',
  description: '',
  unit: '',
  decimals: 0,
  smallest: undefined,
  largest: undefined,
  pattern: '',
  default: undefined,
  formula: '',
  empty: null,
  how: 'sum',
  of: 'estimate',
  options: [],
}

/** What the form of a field begins with. @param known the field that is changed; none for a new one */
export function beginField(known: Field | undefined): WrittenField {
  if (known === undefined) return { ...blank }
  const { how = blank.how, of = blank.of } = known.rollUp ?? {}
  return { ...blank, ...known, how, of, options: inOrder(known.options ?? {}) }
}

function optionsOf(options: readonly EditedOption[]): NonNullable<Field['options']> {
  const keys = orderKeys(options.length)
  return Object.fromEntries(
    options.map(({ id, title, description, colour, retired }, index) => [
      id,
      {
        order: elementAt(keys, index),
        title,
        description,
        ...(colour ? { colour } : {}),
        ...(retired ? { retired: true } : {}),
      },
    ]),
  )
}

const isGiven = (value: unknown): boolean =>
  value !== undefined &&
  value !== '' &&
  value !== null &&
  !(Array.isArray(value) && value.length === 0)

/** Each part of a field as it was written; undefined where nothing was. */
const parts: {
  readonly [Part in FieldPart]: (written: WrittenField) => Field[Part] | undefined
} = {
  unit: ({ unit }) => unit || undefined,
  decimals: ({ decimals }) => decimals,
  smallest: ({ smallest }) => (isGiven(smallest) ? Number(smallest) : undefined),
  largest: ({ largest }) => (isGiven(largest) ? Number(largest) : undefined),
  pattern: ({ pattern }) => pattern || undefined,
  options: ({ options }) => optionsOf(options),
  formula: ({ formula }) => formula,
  empty: ({ empty }) => empty,
  rollUp: ({ how, of }) => (how === 'share done' ? { how } : { how, of }),
}

/** The field that a form tells. */
export function fieldOf(written: WrittenField, order: string): Field {
  const { title, handle, kind, description } = written
  const own = fieldParts
    .filter((part) => hasPart(kind, part))
    .map((part) => [part, parts[part](written)] as const)
    .filter(([, value]) => value !== undefined)
  return {
    order,
    title,
    handle,
    kind,
    description,
    ...Object.fromEntries(own),
    ...(!isComputed(kind) && isGiven(written.default) ? { default: written.default } : {}),
  }
}
