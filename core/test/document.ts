import fc from 'fast-check'
import { emptyDocument, type DefinitionsDocument } from '../src/definitions/document/document.ts'
import { orderKeys } from '../src/definitions/document/order.ts'

const [a, b, c] = orderKeys(3) as [string, string, string]

/** A small sound document: one rulebook, one type, a flow of three statuses. */
export const soundDocument: DefinitionsDocument = {
  ...emptyDocument,
  types: { ty_job: { order: a, title: 'Job', monogram: 'Jo', tier: 2, description: '' } },
  statuses: {
    st_open: { order: a, title: 'Open', phase: 'idle', queue: true, description: '' },
    st_hand: { order: b, title: 'In hand', phase: 'active', queue: false, description: '' },
    st_off: { order: c, title: 'Signed off', phase: 'done', queue: false, description: '' },
  },
  fields: {
    fi_cost: {
      order: a,
      title: 'Cost',
      handle: 'cost',
      kind: 'number',
      unit: '€',
      decimals: 2,
      description: '',
    },
    fi_berth: {
      order: b,
      title: 'Berth',
      handle: 'berth',
      kind: 'choice',
      description: '',
      options: { op_north: { order: a, title: 'North', description: '' } },
    },
  },
  priorities: {
    pi_now: { order: a, title: 'Now', urgency: 1, description: '' },
    pi_later: { order: b, title: 'Later', urgency: 4, description: '' },
  },
  ladders: {
    ld_ops: {
      order: a,
      title: 'Operations',
      description: '',
      rungs: { pi_now: { order: a }, pi_later: { order: b } },
      default: 'pi_later',
    },
  },
  rulebooks: {
    rb_all: {
      order: a,
      title: 'Everyone',
      description: '',
      extends: null,
      entries: {
        ladder: { ladder: 'ld_ops' },
        'type:ty_job': { start: 'st_open' },
        'status:ty_job:st_open': { order: a },
        'status:ty_job:st_hand': { order: b },
        'status:ty_job:st_off': { order: c },
        'move:ty_job:st_open:st_hand': {},
        'move:ty_job:st_hand:st_off': {},
        'move:ty_job:st_hand:st_open': {},
        'form:ty_job:item:priority': { order: a },
        'form:ty_job:item:fi_cost': { order: b },
      },
    },
  },
  projects: { pr_yard: 'rb_all' },
}

const title = fc.string({ minLength: 1, maxLength: 12 }).filter((text) => text.trim() !== '')
const named = <T extends object>(
  more: fc.Arbitrary<T>,
): fc.Arbitrary<T & { order: string; title: string; description: string }> =>
  fc
    .tuple(fc.constantFrom(a, b, c), title, fc.string({ maxLength: 8 }), more)
    .map(([order, words, description, rest]) => ({ order, title: words, description, ...rest }))
const map = <T>(ids: readonly string[], entry: fc.Arbitrary<T>): fc.Arbitrary<Record<string, T>> =>
  fc.dictionary(fc.constantFrom(...ids), entry, { maxKeys: 4, noNullPrototype: true })

/** Documents of any content that fit the schema, sound or not. */
export const anyDocument: fc.Arbitrary<DefinitionsDocument> = fc
  .record({
    types: map(
      ['ty_aa', 'ty_bb', 'ty_cc'],
      named(fc.record({ monogram: fc.constantFrom('Aa', 'Bb'), tier: fc.nat(4) })),
    ),
    statuses: map(
      ['st_aa', 'st_bb', 'st_cc'],
      named(
        fc.record({
          phase: fc.constantFrom('idle' as const, 'done' as const),
          queue: fc.boolean(),
        }),
      ),
    ),
    priorities: map(
      ['pi_aa', 'pi_bb'],
      named(fc.record({ urgency: fc.integer({ min: 1, max: 5 }) })),
    ),
    ladders: map(
      ['ld_aa'],
      named(
        fc.record({
          rungs: map(['pi_aa', 'pi_bb'], fc.record({ order: fc.constantFrom(a, b) })),
          default: fc.constantFrom('pi_aa', null),
        }),
      ),
    ),
    rulebooks: map(
      ['rb_aa', 'rb_bb'],
      named(
        fc.record({
          extends: fc.constantFrom('rb_aa', null),
          entries: map(
            ['ladder', 'type:ty_aa', 'move:ty_aa:st_aa:st_bb'],
            fc.oneof(fc.constant('out' as const), fc.record({ order: fc.constantFrom(a, b) })),
          ),
        }),
      ),
    ),
  })
  .map((parts) => ({ ...emptyDocument, ...parts }))
