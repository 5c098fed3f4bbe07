import { keysOf } from '../../known/index.ts'

/** What one value of a field is made of: how it is read, kept in a column and edited follows from that. */
export type FieldValues = 'text' | 'number' | 'date' | 'timestamp' | 'boolean' | 'option' | 'person'

/** The parts of a field's definition that only some kinds have. */
export const fieldParts = [
  'unit',
  'decimals',
  'smallest',
  'largest',
  'pattern',
  'options',
  'formula',
  'empty',
  'rollUp',
] as const
export type FieldPart = (typeof fieldParts)[number]

export interface FieldKindEntry {
  readonly values: FieldValues
  readonly parts: readonly FieldPart[]
  /** what its default may be, in words; a kind without has no default */
  readonly standard?: string
  /** an item holds any number of values, from none on */
  readonly several?: true
  /** its text may have many lines */
  readonly long?: true
  /** its text is a web address */
  readonly webAddress?: true
  /** it is computed whenever it is asked for, and never stored */
  readonly computed?: true
}

/** The one table of the kinds of fields. */
const kinds = {
  text: { values: 'text', parts: ['pattern'], standard: 'text' },
  'long text': { values: 'text', parts: [], standard: 'text', long: true },
  number: {
    values: 'number',
    parts: ['unit', 'decimals', 'smallest', 'largest'],
    standard: 'a number within its limits',
  },
  date: { values: 'date', parts: [], standard: 'a day, or today with days added: today+14' },
  moment: { values: 'timestamp', parts: [], standard: 'a moment in UTC, or today' },
  'yes/no': { values: 'boolean', parts: [], standard: 'true or false' },
  choice: {
    values: 'option',
    parts: ['options'],
    standard: 'the identity of one of its options',
  },
  'several choices': {
    values: 'option',
    parts: ['options'],
    standard: 'identities of its options',
    several: true,
  },
  person: { values: 'person', parts: [], standard: 'me, or the identity of a person' },
  people: { values: 'person', parts: [], standard: 'me, or identities of people', several: true },
  'web address': {
    values: 'text',
    parts: ['pattern'],
    standard: 'https://…',
    webAddress: true,
  },
  score: {
    values: 'number',
    parts: ['unit', 'decimals', 'formula', 'empty'],
    computed: true,
  },
  'roll-up': { values: 'number', parts: ['unit', 'decimals', 'rollUp'], computed: true },
} as const satisfies Record<string, FieldKindEntry>

export type FieldKind = keyof typeof kinds

export const fieldKinds = keysOf(kinds)

export const fieldKind = (kind: FieldKind): FieldKindEntry => kinds[kind]

/** Whether a kind of field is computed whenever it is asked for, and never stored. */
export const isComputed = (kind: FieldKind): boolean => fieldKind(kind).computed === true

/** Whether a field of a kind holds several values. */
export const holdsSeveral = (kind: FieldKind): boolean => fieldKind(kind).several === true

/** Whether the definition of a field of a kind may have a part. */
export const hasPart = (kind: FieldKind, part: FieldPart): boolean =>
  fieldKind(kind).parts.includes(part)

export const rollUps = ['sum', 'least', 'greatest', 'share done'] as const

export const estimateUnits = ['hours', 'points', 'days'] as const

/** Who a requirement may ask for, beside what an item must hold. */
export const requiredRoles = ['administrator', 'keeper of the project', 'assignee'] as const
