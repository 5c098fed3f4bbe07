import type { Type } from './tree/checked.ts'

export const isNumber: Type = { kind: 'number' }

export const isText: Type = { kind: 'text' }

export const comparable = (a: Type, b: Type): boolean => {
  const moment = (type: Type): boolean => type.kind === 'date' || type.kind === 'timestamp'
  if (moment(a) && moment(b)) return true
  if (a.kind === 'choice' && b.kind === 'choice') return a.domain === b.domain
  return a.kind === b.kind
}

export const ordered = (type: Type): boolean =>
  ['number', 'text', 'date', 'timestamp'].includes(type.kind)
