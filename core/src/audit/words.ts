import { labelColours } from '../labels/colours.ts'

/** One line of what an act changed; null where nothing was told of before, or of after. */
export interface ActLine {
  /** which part, in words; empty where the act has only one */
  readonly part: string
  readonly before: string | null
  readonly after: string | null
}

/** What was recorded of an act. */
export interface Recorded {
  readonly before: unknown
  readonly after: unknown
}

/** Parts whose names are not words. */
const partWords: Readonly<Record<string, string>> = {
  daysOff: 'days off',
  hours: 'working hours',
  keeper: 'who keeps it',
  keepers: 'who keeps it',
  members: 'who belongs to it',
  open: 'who sees it',
  people: 'who is in it',
  remit: 'what is theirs',
  shared: 'who sees it',
}

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

type Names = (identity: string) => string | undefined

type Parts = Readonly<Record<string, unknown>>

const isParts = (value: unknown): value is Parts =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/**
 * What an act changed, in the words of editions: what was published or changed in a draft as it is told there, of anything else each
 * part that is another one, before and after.
 *
 * @param nameOf the title of what has an identity
 */
export function actInWords({ before, after }: Recorded, nameOf: Names): ActLine[] {
  if (isParts(after) && isTexts(after['words'])) return told(after['words'], after['note'])
  if (isTexts(after) && before === null) return told(after, '')
  if (isParts(before) || isParts(after)) return partsInWords(before, after, nameOf)
  if (before === null && after === null) return []
  return [{ part: '', before: said(before, '', nameOf), after: said(after, '', nameOf) }]
}

const isTexts = (value: unknown): value is readonly string[] =>
  Array.isArray(value) && value.length > 0 && value.every((entry) => typeof entry === 'string')

const told = (words: readonly string[], note: unknown): ActLine[] => [
  ...words.map((line) => ({ part: '', before: null, after: line })),
  ...(typeof note === 'string' && note !== '' ? [{ part: 'note', before: null, after: note }] : []),
]

const isEmpty = (value: unknown): boolean => value === undefined || value === null || value === ''

function partsInWords(before: unknown, after: unknown, nameOf: Names): ActLine[] {
  const was: Parts = isParts(before) ? before : {}
  const is: Parts = isParts(after) ? after : {}
  // What a change does not name stays as it was.
  const parts = after === null ? Object.keys(was) : Object.keys(is)
  return parts.flatMap((part) => {
    const line = {
      part: partWords[part] ?? part,
      before: isEmpty(was[part]) ? null : said(was[part], part, nameOf),
      after: part in is ? said(is[part], part, nameOf) : null,
    }
    if (isEmpty(was[part]) && isEmpty(is[part])) return []
    if (line.before !== line.after) return [line]
    const isSame = JSON.stringify(was[part]) === JSON.stringify(is[part])
    return isSame ? [] : [{ ...line, before: null, after: 'changed' }]
  })
}

/** Parts whose values are told in words of their own. */
const partReaders: Readonly<Record<string, (value: unknown) => string>> = {
  colour: (value) => labelColours[Number(value) - 1] ?? 'none',
  hours: (value) => (isParts(value) ? hoursInWords(value) : 'nobody works'),
  open: (value) => (value === true ? 'everybody' : 'its members only'),
  shared: (value) => (value === 'me' ? 'its owner only' : 'everybody'),
}

/** A value as people read it; null where nothing was recorded. */
function said(value: unknown, part: string, nameOf: Names): string | null {
  if (value === undefined || (value === null && part === '')) return null
  if (value === null || value === '') return 'nothing'
  const read = partReaders[part]
  return read ? read(value) : valueInWords(value, nameOf)
}

function valueInWords(value: unknown, nameOf: Names): string {
  if (typeof value === 'string') return nameOf(value) ?? value
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (Array.isArray(value)) return listInWords(value, nameOf)
  return isParts(value) ? partInWords(value) : String(value)
}

const listInWords = (values: readonly unknown[], nameOf: Names): string =>
  values.length === 0
    ? 'none'
    : values.map((value) => said(value, '', nameOf) ?? 'nothing').join(', ')

/** A day off by its day and name; what is too much for a line is looked at where it stands. */
const partInWords = ({ day, until, yearly, title }: Parts): string => {
  if (typeof day !== 'string') return 'as it stands there'
  const days = typeof until === 'string' ? `${day} to ${until}` : day
  const words = [days, yearly === true && 'every year', title]
  return words.filter((word) => typeof word === 'string' && word !== '').join(' ')
}

const hoursInWords = (hours: Parts): string =>
  weekdays
    .flatMap((day, index) => {
      const windows = hours[String(index + 1)]
      if (!Array.isArray(windows) || windows.length === 0) return []
      const spans = windows.map((window: unknown) =>
        Array.isArray(window) ? window.join('–') : '',
      )
      return [`${day} ${spans.join(' and ')}`]
    })
    .join(', ') || 'nobody works'
