import { describe, expect, it } from 'vitest'
import { vocabulary } from '../../test/vocabulary.ts'
import { changingWith, check } from './check.ts'
import { uncheck } from './uncheck.ts'
import { fromJson } from './json.ts'
import { toJson } from './toJson.ts'
import { parse } from './parser.ts'
import { print } from './print.ts'
import type { QueryError } from './tree/tree.ts'

function errorsOf(text: string): readonly QueryError[] {
  const parsed = parse(text)
  if (!parsed.ok) throw new Error(parsed.errors[0]!.message)
  const checked = check(parsed.value, vocabulary)
  return checked.ok ? [] : checked.errors
}

function checked(text: string): Extract<ReturnType<typeof check>, { ok: true }>['value'] {
  const parsed = parse(text)
  if (!parsed.ok) throw new Error(parsed.errors[0]!.message)
  const outcome = check(parsed.value, vocabulary)
  if (!outcome.ok) throw new Error(outcome.errors[0]!.message)
  return outcome.value
}

describe('checking a query against the vocabulary', () => {
  it.each<[string, { found?: string; nearest?: string; message: RegExp; from: number }]>([
    ["stauts = 'Open'", { message: /no property “stauts”/, nearest: 'status', from: 0 }],
    ["parent.stauts = 'Open'", { message: /no property/, nearest: 'parent.status', from: 0 }],
    ["status = 'open'", { message: /no status “open”/, nearest: "'Open'", from: 9 }],
    [
      "status = 'Sgned off'",
      { message: /Did you mean 'Signed off'/, nearest: "'Signed off'", from: 9 },
    ],
    ['status = "Open"', { message: /Text stands in single quotes/, from: 9 }],
    ['title = 5', { message: /Text cannot be compared with a number/, from: 8 }],
    ["crew_size > 'two'", { message: /A number cannot be compared with text/, from: 12 }],
    ["priority < 'Sailing at risk'", { message: /rung .* or urgency/, from: 0 }],
    ["status > 'Open'", { message: /has no order/, from: 0 }],
    ["labels = 'wet'", { message: /in brackets/, from: 9 }],
    ["A_CONTAINS(status, ('Open'))", { message: /compares arrays; this is a status/, from: 11 }],
    ["status LIKE 'O%'", { message: /compared with = or IN/, from: 0 }],
    ["component = 'Hinge'", { message: /no property “component”/, nearest: 'components', from: 0 }],
    [
      "A_OVERLAPS(components, ('Hinge'))",
      { message: /names 2 things; write one of 'YARD: Hinge', 'PIER: Hinge'/, from: 24 },
    ],
    ["assignee = 'Ana Brandt'", { message: /names 2 things/, from: 11 }],
    ["project = 'Fleet Yard'", { message: /Did you mean 'YARD'/, nearest: "'YARD'", from: 10 }],
    ['T_DURING(due, week(0))', { message: /T_INTERSECTS/, nearest: 'T_INTERSECTS', from: 9 }],
    ['due = week(0)', { message: /T_ operators/, from: 0 }],
    ['weeks(0) = 1', { message: /no function “weeks”/, nearest: 'week', from: 0 }],
    ['days_ago() > 1', { message: /days_ago\(days\)/, from: 0 }],
    ['due > days_ago(1.5)', { message: /whole number/, from: 15 }],
    ['days_ago(3)', { message: /gives a day/, from: 0 }],
    ["words(' - ')", { message: /takes 1 to 20 words/, from: 6 }],
    ['words(title)', { message: /takes words in single quotes/, from: 6 }],
    ["position = 'a'", { message: /only orders/, from: 0 }],
    [
      "has_label('deck', 'car dek')",
      { message: /Did you mean 'car deck'/, nearest: "'car deck'", from: 18 },
    ],
    ["berth = 'Nort'", { message: /no option “Nort”/, nearest: "'North'", from: 8 }],
    ["parent = 'yard-12'", { message: /refs look like/, from: 9 }],
    ["changes_of('priority') > 1", { message: /takes a property/, from: 11 }],
    ['safe > TRUE', { message: /has no order/, from: 0 }],
  ])('%s', (text, expected) => {
    const [error, ...more] = errorsOf(text)
    expect(more).toEqual([])
    expect(error).toMatchObject({
      from: expected.from,
      ...(expected.nearest ? { nearest: expected.nearest } : {}),
    })
    expect(error!.message).toMatch(expected.message)
  })

  it('tells every mistake at once, each in its place', () => {
    expect(errorsOf("stauts = 'Open' AND titel LIKE 'x%'").map((error) => error.from)).toEqual([
      0, 20,
    ])
  })

  it('keeps choices by identity and prints today’s names', () => {
    const condition = checked(
      "status = 'Open' AND A_OVERLAPS(components, ('YARD: Hinge')) AND has_label('deck', 'car deck')",
    )
    const kept = toJson(uncheck(condition, vocabulary, 'identity'))
    expect(JSON.stringify(kept)).toContain('st_open')
    const read = fromJson(kept)
    const again = read.ok ? check(read.value, vocabulary, 'identity') : read
    const printed = again.ok ? print(uncheck(again.value, vocabulary, 'name')) : undefined
    expect(printed).toEqual({
      ok: true,
      text: "status = 'Open' AND A_OVERLAPS(components, ('YARD: Hinge')) AND has_label('deck', 'car deck')",
    })
  })

  it('says when a saved query names what is no longer defined', () => {
    const read = fromJson({ op: '=', args: [{ property: 'status' }, 'st_lost'] })
    const outcome = read.ok ? check(read.value, vocabulary, 'identity') : read
    expect(outcome.ok ? [] : outcome.errors.map((error) => error.message)).toEqual([
      'This query names a status that is no longer defined.',
    ])
  })

  it.each([
    ["status = 'Open'", ['own']],
    ['due < today()', ['clock', 'own']],
    ["parent.status = 'Open'", ['kin']],
    ['assignee = me()', ['asker', 'own']],
  ])('%s can change with %s', (text, kinds) => {
    expect([...changingWith(checked(text))].sort()).toEqual(kinds)
  })
})
