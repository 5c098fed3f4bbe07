import { describe, expect, it } from 'vitest'
import { soundDocument } from '../../test/document.ts'
import { vocabulary } from '../../test/vocabulary.ts'
import { flowOf } from '../definitions/rulebook/rulebook.ts'
import type { Facts } from '../queries/tree/facts.ts'
import { changeInWords } from './history.ts'
import { refuseMove } from './move.ts'
import { listed } from '../language/listed.ts'
import { cleanText, readValue } from './value.ts'

const property = (handle: string) => vocabulary.properties.get(handle)!

describe('reading a value from outside', () => {
  it.each<[string, string, object, unknown, unknown]>([
    ['a number', 'crew_size', { smallest: 2, largest: 3 }, 2.5, '2.5'],
    ['text that matches its pattern', 'note', { pattern: 'Y-\\d{4}' }, 'Y-1234', 'Y-1234'],
    ['a number as text', 'crew_size', {}, ' 12 ', '12'],
    ['nothing', 'crew_size', {}, '', null],
    ['a choice by its name', 'status', {}, 'In hand', 'st_hand'],
    ['a choice by its identity', 'status', {}, 'st_hand', 'st_hand'],
    ['a choice as it was shown', 'status', {}, { id: 'st_off' }, 'st_off'],
    ['several, each once', 'labels', {}, ['wet', 'wet', 'la_car'], ['la_wet', 'la_car']],
    ['no labels', 'labels', {}, null, []],
    ['a day', 'due', {}, '2026-02-28', '2026-02-28'],
    ['a moment', 'sea_trial', {}, '2026-02-28T10:00:00Z', Date.parse('2026-02-28T10:00:00Z')],
    ['yes', 'safe', {}, true, true],
    ['text, composed', 'note', {}, ' e\u0301 ', 'é'],
    ['a web address', 'note', { webAddress: true }, 'https://a.example/b', 'https://a.example/b'],
    ['a parent', 'parent', {}, 'YARD/12', 'YARD/12'],
  ])('%s', (_, handle, rules, raw, expected) => {
    expect(readValue(property(handle), rules, raw, vocabulary)).toEqual({
      ok: true,
      value: expected,
    })
  })

  it.each<[string, string, object, unknown, RegExp]>([
    ['a number below its smallest', 'crew_size', { smallest: 1 }, 0, /at least 1/],
    ['a number above its largest', 'crew_size', { largest: 9 }, '9.5', /at most 9/],
    [
      'text that does not match its pattern',
      'note',
      { pattern: 'Y-\\d{4}' },
      'Y-12',
      /as it should/,
    ],
    ['text too long for a pattern', 'note', { pattern: 'a*' }, 'a'.repeat(201), /at most 200/],
    ['letters for a number', 'crew_size', {}, 'two', /is a number/],
    ['too many decimals', 'crew_size', { decimals: 1 }, '2.55', /at most 1 decimal/],
    ['a number without end', 'crew_size', {}, Infinity, /is a number/],
    ['an unknown choice', 'status', {}, 'In hnad', /Did you mean “In hand”/],
    ['a day that is none', 'due', {}, '2026-02-30', /is a day/],
    ['a moment without zone', 'sea_trial', {}, '2026-02-28T10:00', /moment in UTC/],
    ['text for yes or no', 'safe', {}, 'yes', /yes or no/],
    ['U+0000', 'note', {}, 'a\u0000b', /U\+0000/],
    ['half a character', 'note', {}, 'a\ud800', /lone surrogate/],
    [
      'an address of another kind',
      'note',
      { webAddress: true },
      'javascript:alert(1)',
      /web address/,
    ],
    ['text that is too long', 'note', { longest: 5 }, 'abcdef', /at most 5/],
    ['one value for several', 'labels', {}, 'wet', /several values/],
    ['a ref that is none', 'parent', {}, 'yard 12', /named by its ref/],
    ['an ambiguous person', 'assignee', {}, 'Ana Brandt', /no such value/],
  ])('refuses %s and says what would do', (_, handle, rules, raw, message) => {
    const reading = readValue(property(handle), rules, raw, vocabulary)
    expect(reading.ok ? '' : reading.message).toMatch(message)
    expect(reading.ok ? '' : reading.expected).not.toBe('')
  })

  it('keeps characters beyond the basic plane', () => {
    expect(cleanText('🚢')).toEqual({ ok: true, text: '🚢' })
  })
})

describe('a move', () => {
  const flow = flowOf(soundDocument, 'rb_all', 'ty_job')
  it('along the flow is not refused', () => {
    expect(refuseMove(soundDocument, flow, 'st_open', 'st_hand')).toBeUndefined()
  })
  it('off the flow is refused with where the item may go instead', () => {
    expect(refuseMove(soundDocument, flow, 'st_hand', 'st_hand')).toBeUndefined()
    expect(refuseMove(soundDocument, flow, 'st_open', 'st_off')).toEqual({
      message: 'A Job does not go from Open to Signed off. From Open it may go to In hand.',
      allowed: [{ id: 'st_hand', title: 'In hand' }],
    })
    expect(refuseMove(soundDocument, flow, 'st_off', 'st_open')!.message).toContain(
      'Nothing leads on from there.',
    )
    expect(refuseMove(soundDocument, flow, 'st_hand', 'st_lost')!.message).toBe(
      'st_lost is not in the flow of Job. From In hand it may go to Open or Signed off.',
    )
  })
  it.each([
    [[], ''],
    [['a'], 'a'],
    [['a', 'b'], 'a or b'],
    [['a', 'b', 'c'], 'a, b or c'],
  ])('%j is told as “%s”', (words, text) => {
    expect(listed(words)).toBe(text)
  })
})

describe('history in words', () => {
  const before: Facts = {
    project: 'pr_yard',
    title: 'Hinge',
    status: 'st_open',
    priority: 'pi_risk',
    labels: ['la_wet'],
    comments: 0,
    on_hold: false,
    due: '2026-03-01',
    assignee: null,
    deleted: false,
    description: null,
  }
  const told = (after: Facts): string[] =>
    changeInWords(before, { ...before, ...after }, vocabulary, 'UTC').map((line) =>
      line.map((said) => (said.value ? `*${said.text}*` : said.text)).join(''),
    )
  it.each<[string, Facts, string[]]>([
    ['a move', { status: 'st_hand' }, ['moved it from *Open* to *In hand*']],
    [
      'a priority raised',
      { priority: 'pi_stop' },
      ['raised the priority from *Sailing at risk* to *Sailing stopped*'],
    ],
    ['a priority emptied', { priority: null }, ['emptied priority, which was *Sailing at risk*']],
    ['labels', { labels: ['la_car'] }, ['added labels *deck: car deck*', 'took away labels *wet*']],
    ['a comment', { comments: 1 }, ['said something']],
    [
      'a hold with its reason',
      { on_hold: true, hold_reason: 'no calm day' },
      ['put it on hold: *no calm day*'],
    ],
    ['a date moved', { due: '2026-03-09' }, ['changed due from *1 Mar 2026* to *9 Mar 2026*']],
    ['a date emptied', { due: null }, ['emptied due, which was *1 Mar 2026*']],
    ['an assignee', { assignee: 'pe_ilse' }, ['gave it to *Ilse Varga*']],
    ['a field of one’s own', { crew_size: '3' }, ['set crew_size to *3*']],
    ['a title', { title: 'Hinges' }, ['renamed it from *Hinge* to *Hinges*']],
    ['a description', { description: 'x' }, ['described it']],
    ['deleting', { deleted: true }, ['deleted it']],
    ['nothing that is told', { phase: 'active' }, []],
  ])('%s', (_, after, lines) => {
    expect(told(after)).toEqual(lines)
  })
  it('begins with who raised it', () => {
    expect(changeInWords(undefined, before, vocabulary, 'UTC')).toEqual([[{ text: 'raised it' }]])
  })
})
