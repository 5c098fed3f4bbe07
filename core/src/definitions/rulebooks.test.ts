import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { soundDocument } from '../../test/document.ts'
import { replaceAt, same } from './draft/change.ts'
import type { DefinitionsDocument } from './document/document.ts'
import type { Rulebook } from './document/rules.ts'
import {
  compare,
  entriesOf,
  projectsReached,
  resolve,
  restingRulebooks,
} from './rulebook/resolve.ts'
import {
  flowOf,
  formOf,
  mayStandBelow,
  movesFrom,
  offeredOf,
  placeAmong,
  rungsOf,
  unitOf,
} from './rulebook/rulebook.ts'
import { validate } from './validate/validate.ts'

const own = (
  entries: Rulebook['entries'],
  of = 'rb_all',
  id = 'rb_own',
  document = soundDocument,
): DefinitionsDocument =>
  replaceAt(document, ['rulebooks', id], {
    order: id,
    title: id,
    description: '',
    extends: of,
    entries,
  })
const origins = (document: DefinitionsDocument, id = 'rb_own'): Record<string, string> =>
  Object.fromEntries(
    [...resolve(document, id).values()]
      .filter((resolved) => resolved.origin !== 'inherited')
      .map((resolved) => [resolved.key, resolved.origin]),
  )

describe('a rulebook that extends another', () => {
  it('tells where each entry comes from', () => {
    const document = own({
      'type:ty_job': { start: 'st_hand' },
      'move:ty_job:st_open:st_off': {},
      'form:ty_job:item:fi_cost': 'out',
      'family:fa_lost': 'out',
    })
    expect(origins(document)).toEqual({
      'type:ty_job': 'changed',
      'move:ty_job:st_open:st_off': 'added',
      'form:ty_job:item:fi_cost': 'left out',
    })
    expect(resolve(document, 'rb_own').get('ladder')).toMatchObject({
      origin: 'inherited',
      from: 'rb_all',
    })
    expect(
      formOf(document, 'rb_own', 'ty_job', 'item').map((formField) => formField.field),
    ).toEqual(['priority'])
  })

  it('leaves out with a status the moves and requirements that rest on it', () => {
    const asked = replaceAt(
      soundDocument,
      ['rulebooks', 'rb_all', 'entries', 'requirement:ty_job:st_hand'],
      { requires: { comment: true } },
    )
    const document = own(
      { 'status:ty_job:st_hand': 'out', 'move:ty_job:st_open:st_off': {} },
      'rb_all',
      'rb_own',
      asked,
    )
    const flow = flowOf(document, 'rb_own', 'ty_job')
    expect([flow.statuses, [...flow.moves], flow.requirements.size]).toEqual([
      ['st_open', 'st_off'],
      ['st_open:st_off'],
      0,
    ])
    expect(validate(document)).toEqual([])
    expect(flowOf(document, 'rb_all', 'ty_job').requirements.get('st_hand')).toEqual({
      comment: true,
    })
  })

  it('of any depth takes the nearest word, and what was left out above can be added again below', () => {
    const deep = own(
      { 'move:ty_job:st_open:st_hand': {} },
      'rb_own',
      'rb_deep',
      own({ 'move:ty_job:st_open:st_hand': 'out' }),
    )
    expect([
      movesFrom(flowOf(deep, 'rb_own', 'ty_job'), 'st_open'),
      movesFrom(flowOf(deep, 'rb_deep', 'ty_job'), 'st_open'),
    ]).toEqual([[], ['st_hand']])
    expect(origins(deep, 'rb_deep')).toEqual({ 'move:ty_job:st_open:st_hand': 'added' })
    expect(restingRulebooks(deep, 'rb_all')).toEqual(['rb_all', 'rb_own', 'rb_deep'])
  })

  it('that changes nothing equals its parent, whatever the parent is', () => {
    const keys = [
      'type:ty_job',
      'status:ty_job:st_open',
      'status:ty_job:st_hand',
      'move:ty_job:st_open:st_hand',
      'ladder',
      'unit',
      'form:ty_job:item:fi_cost',
      'requirement:ty_job:st_hand',
    ]
    const entries = fc.dictionary(
      fc.constantFrom(...keys),
      fc.constantFrom<Rulebook['entries'][string]>(
        'out',
        { order: 'a' },
        { order: 'b', required: true },
      ),
      { noNullPrototype: true },
    )
    fc.assert(
      fc.property(entries, entries, (grand, parent) => {
        const document = own(
          {},
          'rb_mid',
          'rb_child',
          own(parent, 'rb_grand', 'rb_mid', own(grand, 'rb_all', 'rb_grand')),
        )
        expect([...entriesOf(document, 'rb_child')]).toEqual([...entriesOf(document, 'rb_mid')])
        expect(compare(document, 'rb_child', 'rb_mid', same)).toEqual([])
        // Giving an entry back to its parent is leaving it unsaid.
        for (const key of Object.keys(parent)) {
          const { [key]: _, ...others } = parent
          const given = own(others, 'rb_grand', 'rb_mid', own(grand, 'rb_all', 'rb_grand'))
          expect(resolve(given, 'rb_mid').get(key)?.entry).toEqual(
            resolve(given, 'rb_grand').get(key)?.origin === 'left out'
              ? undefined
              : resolve(given, 'rb_grand').get(key)?.entry,
          )
        }
      }),
      { numRuns: 150 },
    )
  })

  it('reaches the projects that take its word', () => {
    const document = replaceAt(own({ ladder: { ladder: 'ld_ops' } }), ['projects'], {
      pr_yard: 'rb_all',
      pr_pier: 'rb_own',
    })
    expect([
      projectsReached(document, 'rb_all', 'ladder'),
      projectsReached(document, 'rb_all', 'unit'),
      projectsReached(document, 'rb_own', 'unit'),
    ]).toEqual([['pr_yard'], ['pr_yard', 'pr_pier'], ['pr_pier']])
  })

  it('is compared entry by entry', () => {
    expect(
      compare(
        own({ unit: { unit: 'points' }, 'form:ty_job:item:fi_cost': 'out' }),
        'rb_all',
        'rb_own',
        same,
      ),
    ).toEqual([
      { key: 'form:ty_job:item:fi_cost', first: { order: expect.any(String) as string } },
      { key: 'unit', second: { unit: 'points' } },
    ])
  })
})

describe('what a rulebook says', () => {
  it('hours where no unit is named, and its own ladder', () => {
    const document = own({
      unit: { unit: 'points' },
      ladder: { ladder: 'ld_none' },
      'family:fa_a': {},
    })
    expect([
      unitOf(document, 'rb_all'),
      unitOf(document, 'rb_own'),
      rungsOf(document, 'rb_all'),
      rungsOf(document, 'rb_own'),
      offeredOf(document, 'rb_own', 'family'),
    ]).toEqual(['hours', 'points', ['pi_now', 'pi_later'], [], ['fa_a']])
  })

  it('which type may stand below which: a lower tier, and among those named', () => {
    const type = (tier: number, below?: string[]) => ({
      order: 'a',
      title: `T${tier}${below?.join(',') ?? ''}`,
      monogram: 'Aa',
      description: '',
      tier,
      ...(below ? { below } : {}),
    })
    const document = replaceAt(soundDocument, ['types'], {
      ty_low: type(0),
      ty_mid: type(1),
      ty_top: type(3, ['ty_mid']),
    })
    const pairs: [string, string, boolean][] = [
      ['ty_low', 'ty_mid', true],
      ['ty_mid', 'ty_low', false],
      ['ty_mid', 'ty_top', true],
      ['ty_low', 'ty_top', false],
      ['ty_low', 'ty_low', false],
      ['ty_lost', 'ty_top', false],
    ]
    expect(pairs.map(([child, parent]) => mayStandBelow(document, child, parent))).toEqual(
      pairs.map(([, , may]) => may),
    )
  })
})

describe('a status of a flow at another place', () => {
  const [type] = Object.keys(soundDocument.types).filter(
    (id) => flowOf(soundDocument, 'rb_all', id).statuses.length > 2,
  ) as [string]

  it('stands there, wherever it was, and the others keep their order', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(20), fc.nat(20)), { minLength: 1, maxLength: 12 }),
        (moves) => {
          let document: DefinitionsDocument = soundDocument
          for (const [from, to] of moves) {
            const { statuses } = flowOf(document, 'rb_all', type)
            const id = statuses[from % statuses.length]!
            const at = to % statuses.length
            const order = placeAmong(document, 'rb_all', `status:${type}`, id, at)
            document = replaceAt(
              document,
              ['rulebooks', 'rb_all', 'entries', `status:${type}:${id}`],
              { order },
            )
            const others = statuses.filter((status) => status !== id)
            expect(flowOf(document, 'rb_all', type).statuses).toEqual([
              ...others.slice(0, at),
              id,
              ...others.slice(at),
            ])
          }
        },
      ),
    )
  })
})
