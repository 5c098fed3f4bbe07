import { asNumber, asTexts } from '../known/index.ts'
import type { Facts, FactValue } from '../queries/tree/facts.ts'
import type { Vocabulary } from '../queries/tree/vocabulary.ts'
import type { Property } from '../queries/tree/checked.ts'
import { type Day, dayOf } from '../calendar/day.ts'

/** A piece of a sentence; `value` marks a value, shown in italics. */
export interface HistoryWords {
  readonly text: string
  readonly value?: true
}

const text = (words: string): HistoryWords => ({ text: words })
const value = (words: string): HistoryWords => ({ text: words, value: true })

/** Handles that say nothing of their own: they follow from others. */
const silent = new Set([
  'phase',
  'created',
  'changed',
  'done',
  'ref',
  'comments',
  'code_changes',
  'position',
  'hold_reason',
  'links',
])

/**
 * What one state changed against the one before, in words: a sentence a change, without its subject
 * (“moved it from *Open* to *In hand*”).
 */
export function changeInWords(
  before: Facts | undefined,
  after: Facts,
  vocabulary: Vocabulary,
  zone: string,
): HistoryWords[][] {
  if (!before) return [[text('raised it')]]
  const held = (facts: Facts, handle: string): FactValue => facts[handle] ?? null
  const lines: HistoryWords[][] = []
  for (const property of vocabulary.properties.values()) {
    const [was, is] = [held(before, property.handle), held(after, property.handle)]
    if (silent.has(property.handle) || unchanged(was, is)) continue
    lines.push(...sentencesFor(property, was, is, after, vocabulary, zone))
  }
  if (Number(after['comments'] ?? 0) > Number(before['comments'] ?? 0))
    lines.push([text('said something')])
  if (Number(after['comments'] ?? 0) < Number(before['comments'] ?? 0))
    lines.push([text('took back something said')])
  if (before['deleted'] !== after['deleted'])
    lines.push([text(after['deleted'] ? 'deleted it' : 'brought it back')])
  return lines
}

/** What is told of a state that only says otherwise what was said before. */
export const commentChanged: readonly HistoryWords[] = [text('said something otherwise')]

const unchanged = (a: FactValue, b: FactValue): boolean =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null) ||
  (Array.isArray(a) && a.length === 0 && b === null) ||
  (Array.isArray(b) && b.length === 0 && a === null)

function sentencesFor(
  property: Property,
  was: FactValue,
  is: FactValue,
  after: Facts,
  vocabulary: Vocabulary,
  zone: string,
): HistoryWords[][] {
  const show = (held: FactValue): string => showHeld(property, held, vocabulary, zone)
  switch (property.handle) {
    case 'status':
      return [[text('moved it from '), value(show(was)), text(' to '), value(show(is))]]
    case 'priority':
      return [prioritySentence(was, is, after, vocabulary, show)]
    case 'title':
      return [[text('renamed it from '), value(show(was)), text(' to '), value(show(is))]]
    case 'description':
      return [
        [
          text(
            was === null
              ? 'described it'
              : is === null
                ? 'took its description away'
                : 'rewrote its description',
          ),
        ],
      ]
    case 'on_hold':
      return [
        is === true
          ? [
              text('put it on hold'),
              ...(after['hold_reason'] ? [text(': '), value(String(after['hold_reason']))] : []),
            ]
          : [text('took it off hold')],
      ]
    case 'assignee':
      return [
        is === null
          ? [text('took it from '), value(show(was))]
          : [text('gave it to '), value(show(is))],
      ]
    default:
      break
  }
  const title = property.builtIn ? property.title.toLowerCase() : property.title
  if (property.type.kind === 'array')
    return arraySentences(title, asTexts(was), asTexts(is), (id) =>
      showHeld(property, id, vocabulary, zone),
    )
  if (was === null) return [[text(`set ${title} to `), value(show(is))]]
  if (is === null) return [[text(`emptied ${title}, which was `), value(show(was))]]
  return [[text(`changed ${title} from `), value(show(was)), text(' to '), value(show(is))]]
}

function prioritySentence(
  was: FactValue,
  is: FactValue,
  after: Facts,
  vocabulary: Vocabulary,
  show: (held: FactValue) => string,
): HistoryWords[] {
  if (was === null || is === null)
    return is === null
      ? [text('emptied priority, which was '), value(show(was))]
      : [text('set priority to '), value(show(is))]
  const rung = (priority: FactValue): number | null =>
    vocabulary.rungOf(String(after['project']), String(priority))
  const [from, to] = [rung(was), rung(is)]
  const verb = from === null || to === null ? 'changed' : to < from ? 'raised' : 'lowered'
  return [text(`${verb} the priority from `), value(show(was)), text(' to '), value(show(is))]
}

function arraySentences(
  title: string,
  was: readonly string[],
  is: readonly string[],
  show: (id: string) => string,
): HistoryWords[][] {
  const added = is.filter((id) => !was.includes(id))
  const gone = was.filter((id) => !is.includes(id))
  const list = (ids: readonly string[]): HistoryWords[] =>
    ids.flatMap((id, index) => [...(index ? [text(', ')] : []), value(show(id))])
  return [
    ...(added.length ? [[text(`added ${title} `), ...list(added)]] : []),
    ...(gone.length ? [[text(`took away ${title} `), ...list(gone)]] : []),
  ]
}

const writtenDay = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  timeZone: 'UTC',
})

/** A day as it is written in running text: 3 Dec 2026. */
const dayInWords = (day: Day): string => writtenDay.format(new Date(`${day}T00:00:00Z`))

/** A held value as people read it, without its mark: a choice by its title, a moment by its day. */
export function showHeld(
  property: Property,
  held: FactValue,
  vocabulary: Vocabulary,
  zone: string,
): string {
  if (held === null) return 'nothing'
  const { type } = property
  if ((type.kind === 'choice' || type.kind === 'array') && type.domain !== 'item') {
    const entry = (id: string): string => {
      const choice = vocabulary.choice(type.domain, id)
      return choice?.own ? choice.qualified : (choice?.title ?? id)
    }
    return Array.isArray(held) ? held.map(entry).join(', ') : entry(String(held))
  }
  if (type.kind === 'boolean') return held === true ? 'yes' : 'no'
  if (type.kind === 'timestamp') return dayInWords(dayOf(asNumber(held), zone))
  if (type.kind === 'date') return dayInWords(String(held))
  return String(held)
}
