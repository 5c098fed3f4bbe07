import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ownFilter } from '../../test/filters.ts'
import { vocabulary } from '../../test/vocabulary.ts'
import {
  clauseInWords,
  type Condition,
  type Facts,
  type Moment,
  type Property,
  readCondition,
} from '../queries/index.ts'
import { bornMatching, type Born, meets, openClausesOf } from './born.ts'

const moment: Moment = {
  vocabulary,
  zone: 'Europe/Zurich',
  now: Date.parse('2026-03-18T10:00:00Z'),
  me: 'pe_ilse',
}
const plain: Facts = {
  ref: null,
  title: null,
  project: 'pr_yard',
  type: 'ty_job',
  status: 'st_open',
  phase: 'idle',
  priority: 'pi_risk',
  assignee: null,
  labels: [],
  components: [],
  links: [],
  parts: [],
  created: moment.now,
  changed: moment.now,
  comments: '0',
  code_changes: '0',
  on_hold: false,
}
const phases: Record<string, string> = {
  st_open: 'idle',
  st_hand: 'active',
  st_off: 'done',
  st_gone: 'dropped',
}
const fixed = [
  'title',
  'project',
  'type',
  'phase',
  'comments',
  'code_changes',
  'created',
  'changed',
]
const place = {
  moment,
  givable: (handle: string): Property | undefined =>
    fixed.includes(handle) ? undefined : vocabulary.properties.get(handle),
  offered: ({ type }: Property): string[] =>
    type.kind !== 'choice' && type.kind !== 'array'
      ? []
      : type.domain === 'iteration'
        ? vocabulary.iterations.map(({ id }) => id)
        : vocabulary.choices(type.domain).map(({ id }) => id),
  phaseOf: (status: string) => phases[status] ?? null,
}
function conditionOf(text: string): Condition {
  const read = readCondition({ lang: 'cql2-text', filter: text }, vocabulary)
  if (!read.ok) throw new Error(read.errors[0]!.message)
  return read.value
}
const bornOf = (text: string): Born => bornMatching(conditionOf(text), plain, place)
const told = (clauses: readonly Condition[]): string[] =>
  clauses.map((clause) => clauseInWords(clause, vocabulary))

describe('an item born among the answers of a filter', () => {
  it.each<[string, Facts]>([
    [`status = 'In hand'`, { status: 'st_hand', phase: 'active' }],
    [`phase = 'done' AND assignee = me()`, { status: 'st_off', assignee: 'pe_ilse' }],
    [`status IN ('Signed off', 'In hand')`, { status: 'st_off' }],
    [`status NOT IN ('Open')`, { status: 'st_hand' }],
    [`urgency = 1`, { priority: 'pi_stop' }],
    [`priority IS NULL`, { priority: null }],
    [`assignee IS NOT NULL`, { assignee: 'pe_ana' }],
    [`has_label('wet') AND in_family('deck')`, { labels: ['la_wet', 'la_car'] }],
    [`A_OVERLAPS(labels, ('wet', 'deck: car deck'))`, { labels: ['la_wet', 'la_car'] }],
    [`due = DATE('2026-04-02')`, { due: '2026-04-02' }],
    [`due < days_ahead(-3)`, { due: '2026-03-14' }],
    [`due >= today() AND due <= days_ahead(7)`, { due: '2026-03-18' }],
    [`T_INTERSECTS(due, week(1))`, { due: '2026-03-23' }],
    [`iteration_offset = 1`, { iteration: 'it_3' }],
    [`crew_size >= 3`, { crew_size: '3' }],
    [
      `sea_trial > TIMESTAMP('2026-05-01T08:00:00Z')`,
      { sea_trial: Date.parse('2026-05-01T22:00:00Z') },
    ],
    [`assignee <> 'Ilse Varga'`, { assignee: 'pe_ana' }],
    [`safe = TRUE AND note = 'by hand'`, { safe: true, note: 'by hand' }],
    [`berth = 'North' OR crew_size > 9`, { berth: 'op_north' }],
    [`NOT (status = 'Open' OR on_hold = TRUE)`, { status: 'st_hand', on_hold: false }],
    [`status = 'Open'`, plain],
  ])('takes what makes %s so', (text, values) => {
    const { item, unmet, written } = bornOf(text)
    expect(item).toMatchObject(values)
    expect([unmet, written]).toEqual([[], []])
  })

  it.each<[string, string[]]>([
    [`comments > 2 AND status = 'In hand'`, ['comments is more than 2']],
    [`created < DATE('2026-01-01')`, ['created is before 2026-01-01']],
    [`parent.status = 'Open'`, ['the parent’s status is Open']],
    [`crew_size > 3`, ['crew_size is more than 3']],
    [`type = 'Defect'`, ['of type Defect']],
    [`release IS NULL AND in_remit('Shore crew')`, ['release is re_1']],
    [`status = 'In hand' AND phase = 'done'`, ['phase is done']],
  ])('is told what %s asks in vain', (text, unmet) => {
    expect(told(bornOf(text).unmet)).toEqual(unmet)
  })

  it('leaves what its title decides to whoever writes it', () => {
    const { unmet, written } = bornOf(`CASEI(title) LIKE CASEI('%ramp%') AND words('hinge')`)
    expect(unmet).toEqual([])
    expect(told(written)).toHaveLength(2)
  })

  it('meets every clause that is not told, whatever the filter', () => {
    const source = { vocabulary, today: '2026-03-18', refs: ['YARD/1'], texts: ['Ramp hinge'] }
    fc.assert(
      fc.property(ownFilter(source), (text) => {
        const condition = conditionOf(text)
        const { item, unmet, written } = bornMatching(condition, plain, place)
        // Several remits are one clause, made anew each time, so that clauses are told by their words.
        const isAmong = (clauses: readonly Condition[], clause: Condition): boolean =>
          told(clauses).includes(told([clause])[0]!)
        for (const clause of openClausesOf(condition, moment))
          if (!isAmong(written, clause))
            expect(meets(clause, item, moment), text).toBe(!isAmong(unmet, clause))
      }),
      { numRuns: 300 },
    )
  })
})
