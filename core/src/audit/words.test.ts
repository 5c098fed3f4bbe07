import { describe, expect, it } from 'vitest'
import { actInWords, type ActLine } from './words.ts'

const names: Readonly<Record<string, string>> = {
  fa_deck: 'deck',
  pe_tom: 'Tom Okafor',
  pe_ida: 'Ida Lund',
  pr_yard: 'Fleet Yard',
}
const linesOf = (before: unknown, after: unknown): string[] =>
  actInWords({ before, after }, (id) => names[id]).map(inOneLine)
const inOneLine = ({ part, before, after }: ActLine): string =>
  `${part}: ${before ?? '-'} > ${after ?? '-'}`

describe('what an act changed, in words', () => {
  it.each<[string, unknown, unknown, string[]]>([
    [
      'an edition says what editions say, and its note',
      null,
      { words: ['renames status “Stuck” to “Waiting”'], note: 'Plainer.', mappings: [] },
      [': - > renames status “Stuck” to “Waiting”', 'note: - > Plainer.'],
    ],
    [
      'a draft says what was changed in it',
      null,
      ['adds field “Wind”'],
      [': - > adds field “Wind”'],
    ],
    [
      'a change tells only what it names, before and after',
      { title: 'ramp', colour: 2, family: null, retired: false },
      { title: 'Ramps', colour: 8 },
      ['title: ramp > Ramps', 'colour: lake > wine'],
    ],
    ['what stays the same is left out', { title: 'ramp' }, { title: 'ramp' }, []],
    [
      'identities are told by their titles',
      { keeper: null, family: 'fa_deck', people: ['pe_tom'] },
      { keeper: 'pe_tom', family: null, people: ['pe_tom', 'pe_ida'] },
      [
        'who keeps it: - > Tom Okafor',
        'family: deck > nothing',
        'who is in it: Tom Okafor > Tom Okafor, Ida Lund',
      ],
    ],
    [
      'an identity that is gone, or may not be known, stays as it was recorded',
      { project: 'pr_gone' },
      { project: 'pr_yard' },
      ['project: pr_gone > Fleet Yard'],
    ],
    [
      'who sees it is said',
      { open: true },
      { open: false },
      ['who sees it: everybody > its members only'],
    ],
    ['sharing is one value', 'me', 'everyone', [': me > everyone']],
    [
      'what was deleted is told as it was',
      { title: 'Spares', active: true },
      null,
      ['title: Spares > -', 'active: yes > -'],
    ],
    [
      'working hours and days off are told day by day',
      {
        hours: {
          1: [
            ['08:00', '12:00'],
            ['13:00', '17:00'],
          ],
          2: [],
        },
        daysOff: [],
      },
      { hours: {}, daysOff: [{ day: '2026-12-25', title: 'Midwinter' }] },
      [
        'working hours: Mon 08:00–12:00 and 13:00–17:00 > nobody works',
        'days off: none > 2026-12-25 Midwinter',
      ],
    ],
    [
      'content that is too much for a line is told to be another one',
      { content: { item: { title: 'a' } } },
      { content: { item: { title: 'b' } } },
      ['content: - > changed'],
    ],
    ['nothing recorded is nothing told', null, null, []],
  ])('%s', (_, before, after, lines) => {
    expect(linesOf(before, after)).toEqual(lines)
  })
})
