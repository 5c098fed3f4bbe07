import { describe, expect, it } from 'vitest'
import { vocabulary } from '../../test/vocabulary.ts'
import { check } from './check.ts'
import { evaluate } from './evaluate.ts'
import type { Facts, ItemState, Moment } from './tree/facts.ts'
import { accenti, casei } from './values/fold.ts'
import { endOf, related } from './values/interval.ts'
import { fromJson } from './json.ts'
import { like } from './values/like.ts'
import { parse } from './parser.ts'
import { instantOps, temporalOps } from './tree/tree.ts'
import intervals from './vectors/intervals.json' with { type: 'json' }
import texts from './vectors/like-casei-accenti.json' with { type: 'json' }
import truths from './vectors/three-valued.json' with { type: 'json' }

const at = (text: string): number => Date.parse(text)
const moment: Moment = {
  vocabulary,
  zone: 'Europe/Zurich',
  now: at('2026-03-18T10:00:00Z'),
  me: 'pe_ilse',
}

const facts: Facts = {
  ref: 'YARD/1',
  title: 'Ramp hinge weeps',
  project: 'pr_yard',
  type: 'ty_job',
  status: 'st_hand',
  phase: 'active',
  priority: 'pi_risk',
  assignee: 'pe_ilse',
  labels: ['la_car'],
  components: [],
  links: [],
  created: at('2026-03-16T08:00:00Z'),
  changed: at('2026-03-17T08:00:00Z'),
  due: '2026-03-20',
  on_hold: false,
  crew_size: '2.50',
  comments: 2,
  code_changes: 0,
  parts: [],
  iteration: 'it_2',
  release: 're_2',
}

const state = (
  from: string,
  more: Facts = {},
  by: string | null = 'pe_ana',
  byEdition = false,
): ItemState => ({ from: at(from), facts: { ...facts, ...more }, by, byEdition })

function ask(
  text: string,
  states: readonly ItemState[] = [state('2026-03-17T08:00:00Z')],
  now = moment.now,
): boolean | null {
  const parsed = parse(text)
  if (!parsed.ok) throw new Error(parsed.errors[0]!.message)
  const checked = check(parsed.value, vocabulary)
  if (!checked.ok) throw new Error(checked.errors[0]!.message)
  return evaluate(checked.value, states, { ...moment, now })
}

/** An empty value in a vector becomes a property that holds nothing; an unknown condition a comparison with one. */
function withoutNulls(json: unknown, as: 'condition' | 'number' | 'text'): unknown {
  if (json === null)
    return as === 'condition'
      ? { op: '=', args: [{ property: 'crew_size' }, 1] }
      : { property: as === 'text' ? 'note' : 'crew_size' }
  if (Array.isArray(json)) return json.map((entry) => withoutNulls(entry, as))
  if (typeof json !== 'object') return json
  const { op, args } = json as { op: string; args: unknown[] }
  const inside = ['and', 'or', 'not'].includes(op)
    ? 'condition'
    : op === 'like' ||
        (JSON.stringify(args).includes('"') && !JSON.stringify(args).includes('"op"'))
      ? 'text'
      : 'number'
  return { op, args: args.map((arg) => withoutNulls(arg, inside)) }
}

describe('three-valued logic (vectors/three-valued.json)', () => {
  const nothing = {
    ...state('2026-03-17T08:00:00Z'),
    facts: { ...facts, crew_size: null, note: null },
  }
  // IS NULL of a whole comparison is SQL, not CQL2: the grammar has no condition there.
  const cases = truths.filter(
    (truth) => !JSON.stringify(truth.input).startsWith('{"op":"isNull","args":[{"op"'),
  )
  it.each(cases.map((entry) => [entry.name, entry] as const))('%s', (_, entry) => {
    const input = entry.input as { text?: string }
    const parsed =
      input.text === undefined
        ? fromJson(withoutNulls(entry.input, 'condition'))
        : parse(input.text)
    if (!parsed.ok) throw new Error(JSON.stringify(parsed.errors))
    const checked = check(parsed.value, vocabulary)
    if (!checked.ok) throw new Error(JSON.stringify(checked.errors))
    expect(evaluate(checked.value, [nothing], moment)).toBe(entry.expected)
  })
})

describe('temporal operators (vectors/intervals.json)', () => {
  type Side = { interval?: (string | null)[]; date?: string; timestamp?: string }
  const literal = (side: Side): string => {
    if (side.date) return `DATE('${side.date}')`
    if (side.timestamp) return `TIMESTAMP('${side.timestamp}')`
    return `INTERVAL(${side.interval!.map((end) => (end === null ? 'next_check' : `'${end}'`)).join(', ')})`
  }
  it.each(intervals.map((interval) => [interval.name, interval] as const))('%s', (_, entry) => {
    const { a, b } = entry.input as { a: Side; b: Side }
    const instant = !a.interval || !b.interval
    for (const op of temporalOps) {
      const expected = (entry.expected as unknown as Record<string, boolean | null>)[
        op.toUpperCase()
      ]!
      const parsed = parse(`${op}(${literal(a)}, ${literal(b)})`)
      if (!parsed.ok) throw new Error(parsed.errors[0]!.message)
      const checked = check(parsed.value, vocabulary)
      if (instant && !instantOps.includes(op)) expect(checked.ok, op).toBe(false)
      else
        expect(
          checked.ok &&
            evaluate(checked.value, [state('2026-03-17T08:00:00Z', { next_check: null })], {
              ...moment,
              zone: 'UTC',
            }),
          op,
        ).toBe(expected)
    }
  })

  it('reads a day as its whole span beside a moment', () => {
    const [day, hours] = [
      { start: endOf('2026-03-29'), end: endOf('2026-03-29') },
      { start: endOf('2026-03-28T23:00:00Z'), end: endOf('2026-03-29T21:59:59.999Z') },
    ]
    expect(related('t_equals', day, hours, 'Europe/Zurich')).toBe(true)
  })
})

describe('LIKE, CASEI and ACCENTI (vectors/like-casei-accenti.json)', () => {
  const folded = { casei, accenti }
  it.each(texts.map((text) => [text.name, text] as const))('%s', (_, entry) => {
    const {
      op,
      value = '',
      pattern = '',
      a = '',
      b = '',
    } = entry.input as { op: string; value?: string; pattern?: string; a?: string; b?: string }
    const both = (text: string): string => casei(accenti(text))
    const given = {
      like: () => like(value, pattern),
      casei: () => casei(value),
      accenti: () => accenti(value),
      'casei=': () => casei(a) === casei(b),
      'casei(accenti)=': () => both(a) === both(b),
      caseiLike: () => like(casei(value), casei(pattern)),
      accentiLike: () => like(accenti(value), accenti(pattern)),
      caseiAccentiLike: () => like(both(value), both(pattern)),
    }[op]!()
    const expected = entry.expected as unknown
    expect(given).toBe(
      expected !== null && typeof expected === 'object'
        ? (expected as Record<string, string>)['dropOnlyU0300toU036F']
        : expected,
    )
  })

  it('folds text in a query', () => {
    expect(ask("CASEI(title) LIKE CASEI('RAMP%')")).toBe(true)
    expect(folded.casei('ΟΔΟΣ')).toBe('οδοσ')
  })
})

describe('evaluating an item', () => {
  it.each<[string, boolean | null]>([
    ["status = 'In hand' AND priority = 'Sailing at risk'", true],
    ["status IN ('Open', 'Signed off')", false],
    ['crew_size = 2.5 AND crew_size * 2 = 5', true],
    ["created = DATE('2026-03-16')", true],
    ["created <= DATE('2026-03-15')", false],
    ['assignee = me()', true],
    ['me() IN (assignee, raised_by)', true],
    ['estimate > 3', null],
    ['NOT estimate > 3', null],
    ["estimate > 3 OR type = 'Job'", true],
    ["estimate > 3 AND type = 'Defect'", false],
    ["A_CONTAINS(labels, ('wet'))", false],
    ["NOT A_CONTAINS(labels, ('wet'))", true],
    ["A_OVERLAPS(labels, ('wet', 'deck: car deck'))", true],
    ['A_EQUALS(components, ())', true],
    ['components IS NULL', true],
    ["has_label('deck', 'car deck') AND in_family('deck') AND NOT has_label('wet')", true],
    ["words('HINGE, ramp')", true],
    ["words('hing')", false],
    ["words('Hïnge car')", true],
    ["words('hinge boat')", false],
    ['due > today() AND due <= days_ahead(2)', true],
    ['T_INTERSECTS(due, week(0))', true],
    ['T_INTERSECTS(due, week(1))', false],
    ['T_INTERSECTS(created, month(0))', true],
    ['rung = 2 AND urgency = 2 AND tier = 1', true],
    ['iteration_offset = 0 AND release_offset = 0', true],
    ["in_remit('Yard crew')", true],
    ["in_remit('Nobody’s') OR in_remit('Shore crew')", false],
    ['in_remit(my_teams())', false],
    ["A_CONTAINS(my_teams(), ('Shore crew'))", true],
    ['safe = TRUE', null],
    ['T_AFTER(due, start)', null],
  ])('%s is %s', (text, expected) => {
    expect(ask(text)).toBe(expected)
  })

  describe('with a history', () => {
    const history = [
      state('2026-03-10T08:00:00Z', { status: 'st_open', phase: 'idle', priority: null }),
      state('2026-03-12T08:00:00Z', { priority: 'pi_stop' }, 'pe_ilse'),
      state('2026-03-13T08:00:00Z', { status: 'st_off', phase: 'done', priority: 'pi_stop' }),
      state('2026-03-14T08:00:00Z', { priority: 'pi_risk' }, null, true),
      state('2026-03-17T10:00:00Z', { status: 'st_off', phase: 'done' }, 'pe_ilse'),
    ]
    it('tells the working hours that are left of a time limit', () => {
      // Thursday 12 March to Monday 16, with a morning of waiting for parts: 8 + 4 of 16 hours until then.
      const running = [
        state('2026-03-11T07:00:00Z', { status: 'st_gone' }),
        state('2026-03-12T07:00:00Z', { status: 'st_open' }),
        state('2026-03-13T07:00:00Z', { status: 'st_parts' }),
        state('2026-03-13T11:00:00Z', { status: 'st_hand' }),
      ]
      const left = (hours: number, states: readonly ItemState[], now: string) =>
        ask(`limit_left('Mend') = ${hours}`, states, at(now))
      expect(left(4, running, '2026-03-15T12:00:00Z')).toBe(true)
      expect(left(-2, running, '2026-03-16T13:00:00Z')).toBe(true)
      expect(left(0, running.slice(0, 1), '2026-03-15T12:00:00Z')).toBe(null)
      const ended = [...running, state('2026-03-16T08:00:00Z', { status: 'st_off' })]
      expect(left(0, ended, '2026-03-17T12:00:00Z')).toBe(null)
      const elsewhere = running.map((itemState) => ({
        ...itemState,
        facts: { ...itemState.facts, project: 'pr_pier' },
      }))
      expect(left(0, elsewhere, '2026-03-15T12:00:00Z')).toBe(null)
    })

    it.each<[string, boolean | null]>([
      ["days_in(status, 'Open') = 2", true],
      ["days_in(status, 'In hand') = 1 + 3 + 2 / 24", true],
      ["days_in(status, 'Signed off', INTERVAL('2026-03-01', '2026-03-13')) < 1", true],
      ["days_in(labels, 'wet') = 0", true],
      ['changes_of(priority) = 1', true],
      ["changes_of(status, INTERVAL('2026-03-13', '..')) = 2", true],
      ["changes_of(status, INTERVAL('2026-03-13', '..'), 'Ilse Varga') = 1", true],
      ["first_into('active') = DATE('2026-03-12')", true],
      ["last_into('done') = DATE('2026-03-17')", true],
      ["last_into('dropped') IS NULL", true],
      ["last_into('dropped') > first_into('idle')", null],
    ])('%s is %s', (text, expected) => {
      expect(ask(text, history)).toBe(expected)
    })
  })
})
