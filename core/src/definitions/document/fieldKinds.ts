export const fieldKinds = [
  'text',
  'long text',
  'number',
  'date',
  'moment',
  'yes/no',
  'choice',
  'several choices',
  'person',
  'people',
  'web address',
  'score',
  'roll-up',
] as const

export type FieldKind = (typeof fieldKinds)[number]

/** Kinds that are computed whenever they are asked for, and never stored. */
export const isComputed = (kind: FieldKind): boolean => kind === 'score' || kind === 'roll-up'

export const rollUps = ['sum', 'least', 'greatest', 'share done'] as const

export const estimateUnits = ['hours', 'points', 'days'] as const

/** Who a requirement may ask for, beside what an item must hold. */
export const requiredRoles = ['administrator', 'keeper of the project', 'assignee'] as const
