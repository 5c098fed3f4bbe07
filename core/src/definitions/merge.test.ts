import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyDocument, soundDocument } from '../../test/document.ts'
import { addEdit, type Change, fold, replaceAt, same } from './draft/change.ts'
import { apply, diff } from './draft/diff.ts'
import type { DefinitionsDocument } from './document/document.ts'
import { judgeSuccession, succeed } from './validate/succession.ts'
import { merge } from './draft/merge.ts'
import { rebase } from './draft/rebase.ts'

const title = (document: DefinitionsDocument, status: string, text: string): DefinitionsDocument =>
  replaceAt(document, ['statuses', status, 'title'], text)

describe('merge', () => {
  it('takes what only one side changed, and what both changed alike', () => {
    const [mine, theirs] = [
      title(title(soundDocument, 'st_open', 'New'), 'st_off', 'Gone'),
      title(title(soundDocument, 'st_hand', 'At work'), 'st_off', 'Gone'),
    ]
    const merged = merge(soundDocument, mine, theirs)
    expect(
      merged.ok &&
        ['st_open', 'st_hand', 'st_off'].map((id) => merged.document.statuses[id]!.title),
    ).toEqual(['New', 'At work', 'Gone'])
  })

  it('tells where both changed the same part differently', () => {
    const merged = merge(
      soundDocument,
      title(soundDocument, 'st_open', 'New'),
      title(soundDocument, 'st_open', 'Fresh'),
    )
    expect(merged).toMatchObject({
      ok: false,
      clashes: [
        {
          path: ['statuses', 'st_open', 'title'],
          mine: [{ after: 'New' }],
          theirs: [{ after: 'Fresh' }],
        },
      ],
    })
  })

  it('tells where one side took away what the other changed inside', () => {
    const merged = merge(
      soundDocument,
      replaceAt(soundDocument, ['priorities', 'pi_now'], undefined),
      replaceAt(soundDocument, ['priorities', 'pi_now', 'urgency'], 3),
    )
    expect(merged).toMatchObject({ ok: false, clashes: [{ path: ['priorities', 'pi_now'] }] })
  })

  it('is symmetric where nothing clashes, takes either side whole where the other did nothing, and holds every change of both', () => {
    fc.assert(
      fc.property(anyDocument, anyDocument, anyDocument, (base, mine, theirs) => {
        const [merged, other] = [merge(base, mine, theirs), merge(base, theirs, mine)]
        expect(merged.ok).toBe(other.ok)
        if (merged.ok && other.ok) {
          expect(same(merged.document, other.document)).toBe(true)
          expect(same(apply(merged.document, diff(base, mine)), merged.document)).toBe(true)
        }
        const [alone, unmoved] = [merge(base, mine, base), merge(base, base, theirs)]
        expect(alone.ok && same(alone.document, mine)).toBe(true)
        expect(unmoved.ok && same(unmoved.document, theirs)).toBe(true)
      }),
      { numRuns: 300 },
    )
  })

  it('of changes to different parts never clashes', () => {
    const step = fc.constantFrom<[string[], unknown]>(
      [['statuses', 'st_open', 'title'], 'A'],
      [['types', 'ty_job', 'tier'], 3],
      [['priorities', 'pi_new'], { order: 'z', title: 'X', urgency: 1, description: '' }],
      [['rulebooks', 'rb_all', 'entries', 'move:ty_job:st_open:st_off'], {}],
      [['fields', 'fi_berth', 'options', 'op_s'], { order: 'b', title: 'South', description: '' }],
    )
    fc.assert(
      fc.property(
        fc.uniqueArray(step, { minLength: 2, selector: ([path]) => path.join() }),
        (steps) => {
          const apply_ = (list: readonly [string[], unknown][]) =>
            list.reduce(
              (document, [path, after]) => replaceAt(document, path, after),
              soundDocument,
            )
          const half = Math.floor(steps.length / 2)
          const merged = merge(
            soundDocument,
            apply_(steps.slice(0, half)),
            apply_(steps.slice(half)),
          )
          expect(merged.ok && same(merged.document, apply_(steps))).toBe(true)
        },
      ),
      { numRuns: 100 },
    )
  })
})

describe('a draft put on a newer edition', () => {
  const made = (id: string, by: string) => ({ id, by, at: '2026-11-25T10:00:00Z' })
  const changes: readonly Change[] = [
    { path: ['statuses', 'st_open', 'title'], after: 'New', ...made('ch_1', 'pe_1') },
    { path: ['priorities', 'pi_now', 'urgency'], after: 2, ...made('ch_2', 'pe_2') },
  ].reduce<readonly Change[]>(
    (all, { path, after, ...who }) => addEdit(soundDocument, all, { path, after }, who),
    [],
  )

  it('keeps its changes and who made them', () => {
    const current = title(soundDocument, 'st_hand', 'At work')
    const rebased = rebase(soundDocument, changes, current)
    expect(
      rebased.ok &&
        rebased.changes.map(({ by, path, before, after }) => [by, path[1], before, after]),
    ).toEqual([
      ['pe_2', 'pi_now', 1, 2],
      ['pe_1', 'st_open', 'Open', 'New'],
    ])
    expect(rebased.ok && fold(current, rebased.changes).statuses['st_hand']!.title).toBe('At work')
  })

  it('drops what the newer edition says already', () => {
    const rebased = rebase(soundDocument, changes, title(soundDocument, 'st_open', 'New'))
    expect(rebased.ok && rebased.changes.map((change) => change.path[1])).toEqual(['pi_now'])
  })

  it('asks about clashes, and does what was decided', () => {
    const current = title(soundDocument, 'st_open', 'Fresh')
    const open = rebase(soundDocument, changes, current)
    expect(open.ok ? [] : open.clashes.map((clash) => clash.path)).toEqual([
      ['statuses', 'st_open', 'title'],
    ])
    const key = JSON.stringify(['statuses', 'st_open', 'title'])
    const titleAfter = (choice: 'mine' | 'theirs') => {
      const rebased = rebase(soundDocument, changes, current, { [key]: choice })
      return rebased.ok && fold(current, rebased.changes).statuses['st_open']!.title
    }
    expect([titleAfter('mine'), titleAfter('theirs')]).toEqual(['New', 'Fresh'])
  })

  it('says what the merge says, whenever nothing clashes', () => {
    fc.assert(
      fc.property(anyDocument, anyDocument, anyDocument, (base, mine, theirs) => {
        const merged = merge(base, mine, theirs)
        const rebased = rebase(
          base,
          diff(base, mine).map((difference, index) => ({
            ...made(`ch_${index}`, 'pe_1'),
            ...difference,
          })),
          theirs,
        )
        expect(rebased.ok).toBe(merged.ok)
        if (merged.ok && rebased.ok)
          expect(same(fold(theirs, rebased.changes), merged.document)).toBe(true)
      }),
      { numRuns: 200 },
    )
  })
})

describe('one edition after another', () => {
  it('keeps what is gone as retired, options too', () => {
    const bare = {
      ...soundDocument,
      priorities: {},
      fields: {
        fi_berth: {
          ...soundDocument.fields['fi_berth']!,
          options: { op_new: { order: 'b', title: 'New', description: '' } },
        },
      },
    }
    const whole = succeed(soundDocument, bare)
    expect([
      whole.priorities['pi_now']!.retired,
      whole.fields['fi_cost']!.retired,
      whole.fields['fi_berth']!.options!['op_north']!.retired,
      whole.fields['fi_berth']!.options!['op_new']!.retired,
    ]).toEqual([true, true, true, undefined])
    expect(judgeSuccession(soundDocument, whole)).toEqual([])
  })

  it.each<[string, DefinitionsDocument, string]>([
    ['a status', replaceAt(soundDocument, ['statuses', 'st_off'], undefined), '/statuses/st_off'],
    [
      'an option',
      replaceAt(soundDocument, ['fields', 'fi_berth', 'options'], {}),
      '/fields/fi_berth/options/op_north',
    ],
    [
      'a handle',
      replaceAt(soundDocument, ['fields', 'fi_cost', 'handle'], 'price'),
      '/fields/fi_cost/handle',
    ],
    [
      'a kind',
      replaceAt(soundDocument, ['fields', 'fi_cost', 'kind'], 'text'),
      '/fields/fi_cost/kind',
    ],
  ])('does not lose or change %s', (_, after, pointer) => {
    expect(judgeSuccession(soundDocument, after).map((problem) => problem.pointer)).toEqual([
      pointer,
    ])
  })

  it('made to succeed never loses anything, whatever it was', () => {
    fc.assert(
      fc.property(anyDocument, anyDocument, (before, after) => {
        expect(judgeSuccession(before, succeed(before, after))).toEqual([])
      }),
      { numRuns: 100 },
    )
  })
})
