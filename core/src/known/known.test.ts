import { describe, expect, it } from 'vitest'
import {
  asNumber,
  asNumbers,
  asRecord,
  asText,
  asTextOrNull,
  asTexts,
  certain,
  elementAt,
  entryOf,
  firstIn,
  halves,
  isOneOf,
  keysOf,
  lastIn,
  MissingError,
  valueFor,
} from './index.ts'

describe('what a caller knows to be there', () => {
  it.each<[what: string, given: unknown, wanted: unknown]>([
    ['a value', certain(0, 'count'), 0],
    ['an entry', entryOf({ open: 'Open' }, 'open'), 'Open'],
    ['what a map holds', valueFor(new Map([['a', null]]), 'a'), null],
    ['an element', elementAt(['a', 'b'], 1), 'b'],
    ['the first of a text', firstIn('ramp'), 'r'],
    ['the last', lastIn([1, 2, 3]), 3],
    ['a text', asText(''), ''],
    ['a text or nothing', asTextOrNull(undefined), null],
    ['texts, of which nothing is none', asTexts(null), []],
    ['numbers', asNumbers([1, 2]), [1, 2]],
    ['parts, of which nothing has none', asRecord(undefined), {}],
    ['both halves of a text', halves('move:a:b', ':'), ['move', 'a:b']],
    ['the first half alone', halves('move', ':'), ['move', '']],
    ['the keys of a table', keysOf({ first: 1, second: 2 }), ['first', 'second']],
    ['a word among others', isOneOf(['in', 'out'], 'in'), true],
    ['a word not among them', isOneOf(['in', 'out'], 'up'), false],
  ])('is given: %s', (_, given, wanted) => {
    expect(given).toEqual(wanted)
  })

  it.each<[message: string, act: () => unknown]>([
    ['There is no owner.', () => certain(null, 'owner')],
    ['There is no entry “gone”.', () => entryOf({}, 'gone')],
    ['There is no value for “3”.', () => valueFor(new Map<number, string>(), 3)],
    ['There is no element 0 in a list of 0.', () => firstIn([])],
    ['There is no element -1 in a list of 0.', () => lastIn([])],
    ['There is no text but 7.', () => asText(7)],
    ['There is no number but "7".', () => asNumber('7')],
    ['There is no list of texts but ["a",1].', () => asTexts(['a', 1])],
    ['There is no list of numbers but nothing.', () => asNumbers(undefined)],
    ['There is no record but [].', () => asRecord([])],
  ])('is told where it is not: %s', (message, act) => {
    expect(act).toThrow(new MissingError(message))
  })
})
