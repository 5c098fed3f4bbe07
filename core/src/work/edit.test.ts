import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { soundDocument } from '../../test/document.ts'
import type { DefinitionsDocument } from '../definitions/document/document.ts'
import { orderKeys } from '../definitions/document/order.ts'
import type { Facts } from '../queries/tree/facts.ts'
import type { Living } from '../vocabulary/living.ts'
import { vocabularyOf } from '../vocabulary/vocabularyOf.ts'
import { type ChangeOf, type ItemChange, judgeEdit, judgeEdits, type Judged } from './edit.ts'
import { type Below, Ground, type KnownItems, type Past, type Relative } from './ground.ts'
import { judgeNew } from './making.ts'
import type { WorkRules } from './rules.ts'

const [a, b, c, d] = orderKeys(4) as [string, string, string, string]

/** Three tiers that follow one flow: work is signed off when all below is done, with its cost, after it was in hand. */
function tieredDocument(): DefinitionsDocument {
  const job = soundDocument.types['ty_job']!
  const types = {
    ty_top: { ...job, order: a, title: 'Programme', monogram: 'Pg', tier: 3 },
    ty_job: { ...job, order: b },
    ty_low: { ...job, order: c, title: 'Check', monogram: 'Ck', tier: 1 },
  }
  const rulebook = soundDocument.rulebooks['rb_all']!
  const entries = Object.entries(rulebook.entries).flatMap(([key, entry]) =>
    Object.keys(types).map((type) => [key.replace('ty_job', type), entry] as const),
  )
  return {
    ...soundDocument,
    types,
    families: {
      fa_gear: { order: a, title: 'gear', pick: 'one', description: '', for: [] } as never,
    },
    rulebooks: {
      rb_all: {
        ...rulebook,
        entries: {
          ...Object.fromEntries(entries),
          'form:ty_job:make:fi_cost': { order: d, required: true },
          'requirement:ty_job:st_off': {
            requires: { belowDone: true, filled: ['fi_cost'], been: ['st_hand'] },
          },
          'requirement:ty_top:st_off': { requires: { belowDone: true, comment: true } },
        },
      },
    },
  }
}

const label = (id: string, title: string, family: string | null) => ({
  id,
  title,
  family,
  project: null,
  retired: false,
})
const labels = [
  label('la_pump', 'pump', 'fa_gear'),
  label('la_winch', 'winch', 'fa_gear'),
  label('la_wet', 'wet', null),
]
const living: Living = {
  projects: [{ id: 'pr_yard', code: 'YARD', title: 'Yard', calendar: null }],
  people: ['pe_ana', 'pe_ben'].map((id) => ({ id, name: id, email: `${id}@example.org` })),
  labels,
  components: [{ id: 'co_hinge', title: 'Hinge', project: 'pr_yard' }],
  iterations: [],
  releases: [],
  teams: [],
  calendars: [],
}
const document = tieredDocument()
const rules: WorkRules = {
  document,
  vocabulary: vocabularyOf(document, living),
  fields: new Map(Object.values(document.fields).map((field) => [field.handle, field])),
  labels: new Map(labels.map((label) => [label.id, label])),
  components: new Map([['co_hinge', { title: 'Hinge', project: 'pr_yard', keeper: 'pe_ben' }]]),
  projects: new Map([['pr_yard', { title: 'Yard' }]]),
  zone: 'Europe/Zurich',
  now: Date.parse('2026-03-18T10:00:00Z'),
  person: { id: 'pe_ana', isAdministrator: false, keeps: new Set() },
}

const ref = (index: number): string => `YARD/${index + 1}`
const isOpen = (item: Facts): boolean => item['phase'] === 'idle' || item['phase'] === 'active'

/** One item with its past, as a store would keep it. */
interface Stored {
  readonly item: Facts
  readonly past: Past
}

/** What is known of stored items, worked out from nothing: what a fold has to keep up to date. */
function known(stored: readonly Stored[]): KnownItems {
  const items = stored.map(({ item }) => item)
  const below = (parent: string): Below => {
    const children = items.filter((item) => item['parent'] === parent)
    const types = [...new Set(children.map((item) => String(item['type'])))]
    return {
      open: children.filter(isOpen).length,
      types: new Map(
        types.map((type) => {
          const those = children.filter((item) => item['type'] === type)
          return [type, { count: those.length, ref: String(those[0]!['ref']) }]
        }),
      ),
    }
  }
  const relative = (item: Facts): Relative => ({
    ref: String(item['ref']),
    type: String(item['type']),
    parent: item['parent'] as string | null,
    visible: true,
  })
  const byRef = <T>(make: (item: Facts) => T): Map<string, T> =>
    new Map(items.map((item) => [String(item['ref']), make(item)]))
  return {
    items: byRef((item) => item),
    relatives: byRef(relative),
    below: byRef((item) => below(String(item['ref']))),
    past: new Map(stored.map(({ item, past }) => [String(item['ref']), past])),
  }
}

function storedAfter({ past }: Stored, judged: Extract<Judged, { ok: true }>): Stored {
  const { before, after, comment } = judged
  const stays = before['status'] === after['status']
  return {
    item: after,
    past: {
      been: new Set([...past.been, String(after['status'])]),
      commented: comment !== undefined || (stays && past.commented),
    },
  }
}

const made = (type: string, index: number, given: object = {}): Stored => {
  const judged = judgeNew(rules, new Ground(known([])), 'pr_yard', {
    type,
    title: `item ${index}`,
    fields: { cost: 3 },
    ...given,
  })
  if (!judged.ok) throw new Error(JSON.stringify(judged.refusal))
  const item: Facts = { ...judged.item, ref: ref(index) }
  return { item, past: { commented: false, been: new Set([String(item['status'])]) } }
}

const kinds = ['ty_top', 'ty_top', 'ty_job', 'ty_job', 'ty_job', 'ty_low', 'ty_low', 'ty_low']
const start = kinds.map((type, index) => made(type, index))

const anyRef = fc.integer({ min: 0, max: kinds.length - 1 }).map(ref)
const anyChange: fc.Arbitrary<ItemChange> = fc.oneof(
  fc.record({ parent: fc.option(anyRef) }),
  fc.record({ status: fc.constantFrom('st_open', 'st_hand', 'st_off') }),
  fc.record({ type: fc.constantFrom('ty_top', 'ty_job', 'ty_low') }),
  fc.record({ fields: fc.record({ cost: fc.option(fc.integer({ min: 0, max: 3 })) }) }),
  fc.record({ labels: fc.subarray(['la_pump', 'la_winch', 'la_wet']) }),
  fc.record({ components: fc.subarray(['co_hinge']) }),
  fc.record({ comment: fc.constantFrom('seen', ' ') }),
  fc.record({
    parent: anyRef,
    type: fc.constantFrom('ty_job', 'ty_low'),
    status: fc.constantFrom('st_hand', 'st_off'),
  }),
)
const anyChanges: fc.Arbitrary<ChangeOf[]> = fc.array(
  fc.record({ ref: anyRef, change: anyChange }),
  { minLength: 1, maxLength: 30 },
)

describe('changes of many items', () => {
  it('are judged together as they are one by one', () => {
    const kindsSeen = { accepted: 0, refused: 0 }
    fc.assert(
      fc.property(anyChanges, (changes) => {
        const together = judgeEdits(rules, new Ground(known(start)), changes)
        const stored = new Map(start.map((stored) => [String(stored.item['ref']), stored]))
        const alone = changes.map(({ ref: of, change }) => {
          const judged = judgeEdit(rules, new Ground(known([...stored.values()])), of, change)
          if (judged.ok) stored.set(of, storedAfter(stored.get(of)!, judged))
          kindsSeen[judged.ok ? 'accepted' : 'refused'] += 1
          return judged
        })
        const spoken = (all: readonly Judged[]): unknown =>
          all.map((judged) =>
            judged.ok ? { after: judged.after, changed: judged.changed } : judged.refusal,
          )
        expect(spoken(together)).toEqual(spoken(alone))
      }),
      { numRuns: 300, seed: 11 },
    )
    expect(kindsSeen.accepted).toBeGreaterThan(500)
    expect(kindsSeen.refused).toBeGreaterThan(500)
  })

  it('leaves nothing behind of a change that is refused', () => {
    const changes: ChangeOf[] = [
      { ref: ref(5), change: { parent: ref(2) } },
      { ref: ref(2), change: { status: 'st_hand' } },
      { ref: ref(2), change: { status: 'st_off' } },
      { ref: ref(5), change: { status: 'st_hand' } },
      { ref: ref(5), change: { status: 'st_off' } },
      { ref: ref(2), change: { status: 'st_off' } },
    ]
    const judged = judgeEdits(rules, new Ground(known(start)), changes)
    expect(judged.map((judged) => judged.ok)).toEqual([true, true, false, true, true, true])
  })
})

describe('a change of one item', () => {
  const edit = (change: ItemChange, index = 3): Judged =>
    judgeEdit(rules, new Ground(known(start)), ref(index), change)

  it.each<[string, ItemChange, Facts]>([
    [
      'a label of a family that is pick one',
      { labels: ['la_pump', 'la_winch'] },
      { labels: ['la_winch'] },
    ],
    ['the keeper of a component it gets', { components: ['co_hinge'] }, { assignee: 'pe_ben' }],
    [
      'whoever is given beside the component',
      { components: ['co_hinge'], assignee: 'pe_ana' },
      { assignee: 'pe_ana' },
    ],
    ['the phase of its status', { status: 'st_hand' }, { phase: 'active' }],
    ['no reason while it is not on hold', { hold_reason: 'wind' }, { hold_reason: null }],
    ['a reason with the hold', { on_hold: true, hold_reason: 'wind' }, { hold_reason: 'wind' }],
  ])('gives %s', (_, change, expected) => {
    const judged = edit(change)
    expect(judged.ok && judged.after).toMatchObject(expected)
  })

  it.each<[string, ItemChange, object]>([
    ['a parent that is no item', { parent: 'YARD/99' }, { wrong: [{ pointer: '/parent' }] }],
    [
      'a parent of its own tier',
      { parent: ref(2) },
      { wrong: [{ message: 'The parent must be of a higher tier.' }] },
    ],
    [
      'a move its flow has not',
      { status: 'st_off' },
      { more: { allowed: [{ id: 'st_hand', title: 'In hand' }] } },
    ],
    [
      'everything that is wrong with what is given',
      { title: '', estimate: 'much', fields: { status: 'st_open', nothing: 1 } },
      {
        wrong: [
          { pointer: '/title' },
          { pointer: '/estimate' },
          { pointer: '/fields/status' },
          { pointer: '/fields/nothing' },
        ],
      },
    ],
    ['what is given of phase', { phase: 'done' } as ItemChange, { wrong: [{ pointer: '/phase' }] }],
  ])('is refused for %s', (_, change, expected) => {
    const judged = edit(change)
    expect(judged.ok ? judged : judged.refusal).toMatchObject(expected)
  })

  it('changes nothing where every value is what it was, whatever its zeros', () => {
    const judged = edit({ fields: { cost: '3.00' }, title: 'item 3', labels: [] })
    expect(judged.ok && judged.changed).toEqual([])
  })
})
