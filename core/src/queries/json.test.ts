import { describe, expect, it } from 'vitest'
import { vocabulary } from '../../test/vocabulary.ts'
import { check } from './check.ts'
import { fromJson } from './json.ts'
import { type Cql2Json, toJson } from './toJson.ts'
import { parse } from './parser.ts'
import { print } from './print.ts'

describe('CQL2 JSON that is none', () => {
  it.each<[string, unknown, string, RegExp]>([
    ['nothing', null, '', /a condition is expected/],
    ['a text', 'status', '', /a condition is expected/],
    ['a list', [], '', /a condition is expected/],
    ['no operation', { args: [] }, '', /“op”, a text/],
    ['no arguments', { op: '=' }, '', /“args”, a list/],
    [
      'too few arguments',
      { op: '=', args: [{ property: 'a' }] },
      '/args',
      /takes 2 arguments; 1 are given/,
    ],
    ['an AND of one', { op: 'and', args: [true] }, '/args', /at least two/],
    [
      'a value where a condition belongs',
      { op: 'and', args: [true, 5] },
      '/args/1',
      /a condition is expected/,
    ],
    ['arithmetic as a condition', { op: '+', args: [1, 2] }, '', /gives a value, not a condition/],
    [
      'a comparison with null',
      { op: '=', args: [{ property: 'a' }, null] },
      '/args/1',
      /Nothing equals null/,
    ],
    ['an empty IN', { op: 'in', args: [{ property: 'a' }, []] }, '/args/1', /at least one value/],
    [
      'an IN without a list',
      { op: 'in', args: [{ property: 'a' }, 'x'] },
      '/args/1',
      /at least one value/,
    ],
    [
      'a day that is none',
      { op: '=', args: [{ property: 'a' }, { date: '2026-02-30' }] },
      '/args/1/date',
      /no day of the calendar/,
    ],
    [
      'a moment with an offset',
      { op: '=', args: [{ property: 'a' }, { timestamp: '2026-02-03T08:00:00+01:00' }] },
      '/args/1/timestamp',
      /no moment in UTC/,
    ],
    [
      'an interval of one end',
      { op: 't_after', args: [{ property: 'a' }, { interval: ['2026-01-01'] }] },
      '/args/1/interval',
      /two ends/,
    ],
    [
      'an interval of a word',
      { op: 't_after', args: [{ property: 'a' }, { interval: ['soon', '..'] }] },
      '/args/1/interval/0',
      /neither a day, a moment nor/,
    ],
    [
      'an unknown object',
      { op: '=', args: [{ property: 'a' }, { colour: 'red' }] },
      '/args/1',
      /“op”, a text/,
    ],
  ])('%s is refused with its pointer', (_, json, pointer, message) => {
    const outcome = fromJson(json)
    expect(outcome.ok ? [] : outcome.errors.map((error) => error.pointer)).toEqual([pointer])
    expect(outcome.ok ? '' : outcome.errors[0]!.message).toMatch(message)
  })

  it('tells every place at once', () => {
    const outcome = fromJson({
      op: 'and',
      args: [{ op: '=', args: [1] }, { op: 'like', args: [] }, null],
    })
    expect(outcome.ok ? [] : outcome.errors.map((error) => error.pointer)).toEqual([
      '/args/0/args',
      '/args/1/args',
      '/args/2',
    ])
  })

  it('nested deeper than the bound is refused without running out of stack', () => {
    let json: unknown = true
    for (let depth = 0; depth < 5000; depth += 1) json = { op: 'not', args: [json] }
    const outcome = fromJson(json)
    expect(outcome.ok ? '' : outcome.errors[0]!.message).toContain('deeper than 64 levels')
  })

  it('with more than 2,000 members is refused', () => {
    const outcome = fromJson({
      op: 'in',
      args: [{ property: 'a' }, Array.from({ length: 2001 }, (_, index) => index)],
    })
    expect(outcome.ok ? '' : outcome.errors[0]!.message).toContain('at most 2000 values')
  })
})

describe('numbers', () => {
  it.each([
    ['0.1', 0.1],
    ['-5', -5],
    ['1.5e3', 1500],
    ['123456789012', 123456789012],
  ])('%s travels as a JSON number', (text, json) => {
    const parsed = parse(`a = ${text}`)
    expect(parsed.ok && (toJson(parsed.value) as { args: Cql2Json[] }).args[1]).toBe(json)
  })

  it('with more digits than a JSON reader keeps travel as text, and come back as they were', () => {
    const parsed = parse('crew_size = 12345678901234567890.5')
    const json = parsed.ok ? toJson(parsed.value) : null
    expect((json as { args: Cql2Json[] }).args[1]).toEqual({
      op: 'decimal',
      args: ['12345678901234567890.5'],
    })
    const back = fromJson(json)
    expect(back.ok && print(back.value)).toEqual({
      ok: true,
      text: 'crew_size = 12345678901234567890.5',
    })
  })
})

describe('text', () => {
  it.each([
    ['one that ends in a backslash', 'C:\\'],
    ['one with a backslash before a quote', "it\\'s"],
  ])('%s has no spelling in the standard, and printing says so', (_, value) => {
    const read = fromJson({ op: '=', args: [{ property: 'note' }, value] })
    const printed = read.ok ? print(read.value) : undefined
    expect(printed).toMatchObject({
      ok: false,
      message: expect.stringContaining('kept and exchanged as JSON') as unknown,
    })
    expect(read.ok && toJson(read.value)).toEqual({ op: '=', args: [{ property: 'note' }, value] })
  })

  it.each([
    ['and', '"and" = 1'],
    ['crew size', '"crew size" = 1'],
    ['größe', 'größe = 1'],
    ['parent.due', 'parent.due = 1'],
  ])('a property called %s is printed as the grammar reads it', (name, text) => {
    const read = fromJson({ op: '=', args: [{ property: name }, 1] })
    expect(read.ok && print(read.value)).toEqual({ ok: true, text })
  })
})

describe('brackets', () => {
  it.each([
    'a = (1 + 2) * 3',
    'a = 1 - (2 - 3)',
    'a = (2 ^ 3) ^ 2',
    'a = 2 ^ (b + 1)',
    'a / (b / 2) > 1',
    'NOT (a = 1 AND b = 2)',
    '(a = 1 OR b = 2) AND c = 3',
    'NOT (NOT a = 1)',
    'a = 1 AND (b = 2 AND c = 3)',
    'a NOT BETWEEN 1 AND 2 AND b IS NOT NULL',
    "A_CONTAINEDBY(('x', 'y'), labels)",
    "T_INTERSECTS(INTERVAL(start, '..'), INTERVAL('2026-01-01', due))",
  ])('stand only where they are needed: %s', (text) => {
    const parsed = parse(text)
    expect(parsed.ok && print(parsed.value)).toEqual({ ok: true, text })
  })
})

describe('a kept query', () => {
  it('is checked by identity, and a name is no identity', () => {
    const read = fromJson({ op: '=', args: [{ property: 'status' }, 'Open'] })
    expect(read.ok && check(read.value, vocabulary, 'identity').ok).toBe(false)
    expect(read.ok && check(read.value, vocabulary, 'name').ok).toBe(true)
  })
})
