import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { soundDocument } from '../../../test/document.ts'
import { type Entering, requirementInWords, unmet, unmetInWords } from '../rulebook/requirement.ts'
import { replaceAt } from '../draft/change.ts'
import type { Requirement } from '../document/rules.ts'
import { newlyRefused, type PastMoves, replay } from './replay.ts'
import { flowOf } from '../rulebook/rulebook.ts'

const entering: Entering = {
  roles: ['assignee'],
  filled: (field) => field === 'fi_cost',
  openBelow: 0,
  commented: false,
  reasoned: false,
  been: (status) => status === 'st_open',
}

describe('a requirement', () => {
  it.each<[string, Requirement, Partial<Entering>, string[]]>([
    ['nothing', {}, {}, []],
    ['a role one has', { role: 'assignee' }, {}, []],
    [
      'a role one lacks',
      { role: 'keeper of the project' },
      {},
      ['Only a keeper of the project may do this.'],
    ],
    [
      'fields of which one is empty',
      { filled: ['fi_cost', 'fi_berth', 'due'] },
      {},
      ['Berth and Due must be filled first.'],
    ],
    [
      'all below done, with two open',
      { belowDone: true },
      { openBelow: 2 },
      ['2 items below it are still open.'],
    ],
    ['all below done', { belowDone: true }, {}, []],
    [
      'a comment that was never made',
      { comment: true },
      {},
      ['Something must be said about it first.'],
    ],
    ['a comment made with the move', { comment: true }, { reasoned: true }, []],
    [
      'a reason, with an earlier comment',
      { reason: true },
      { commented: true },
      ['Say why, together with the move.'],
    ],
    ['having been where it was', { been: ['st_open', 'st_off'] }, {}, []],
    [
      'having been where it never was',
      { been: ['st_hand', 'st_off'] },
      {},
      ['It must have been in In hand or Signed off before.'],
    ],
  ])('of %s', (_, requirement, more, words) => {
    expect(
      unmet(requirement, { ...entering, ...more }).map((part) => unmetInWords(soundDocument, part)),
    ).toEqual(words)
  })

  it('reads in few words', () => {
    expect(
      requirementInWords(soundDocument, {
        role: 'administrator',
        filled: ['fi_cost'],
        comment: true,
        reason: true,
        belowDone: true,
        been: ['st_hand'],
      }),
    ).toBe('an administrator, Cost, all below done, a comment, a reason, was in In hand')
  })
})

const asked = replaceAt(
  soundDocument,
  ['rulebooks', 'rb_all', 'entries', 'requirement:ty_job:st_off'],
  { requires: { filled: ['fi_cost'], comment: true } },
)
const move = (more: Partial<PastMoves>): PastMoves => ({
  ...entering,
  refs: ['YARD/1'],
  project: 'pr_yard',
  type: 'ty_job',
  from: 'st_open',
  to: 'st_hand',
  ...more,
})

describe('replay', () => {
  it('counts moves the flow would have refused and items that would have failed a requirement', () => {
    const moves = [
      move({}),
      move({ refs: ['YARD/1', 'YARD/2'], to: 'st_off' }),
      move({ to: 'st_off' }),
      move({ from: 'st_hand', to: 'st_off', commented: true }),
      move({ from: 'st_hand', to: 'st_off', filled: () => false }),
    ]
    expect(replay(asked, moves)).toEqual({
      moves: 6,
      refused: [
        {
          type: 'ty_job',
          from: 'st_open',
          to: 'st_off',
          why: 'flow',
          moves: 3,
          refs: ['YARD/1', 'YARD/2'],
        },
        {
          type: 'ty_job',
          from: 'st_hand',
          to: 'st_off',
          why: 'comment',
          moves: 1,
          refs: ['YARD/1'],
        },
        {
          type: 'ty_job',
          from: 'st_hand',
          to: 'st_off',
          why: 'filled',
          moves: 1,
          refs: ['YARD/1'],
        },
      ],
    })
  })

  it('counts a refused move once, however many reasons there are', () => {
    const moves = [
      move({ from: 'st_hand', to: 'st_off', filled: () => false, refs: ['YARD/1', 'YARD/2'] }),
      move({ from: 'st_hand', to: 'st_off', commented: true }),
      move({ from: 'st_open', to: 'st_off' }),
    ]
    expect([
      replay(asked, moves).refused.reduce((sum, refused) => sum + refused.moves, 0),
      newlyRefused(soundDocument, asked, moves),
      newlyRefused(asked, asked, moves),
    ]).toEqual([5, 2, 0])
  })

  it('passes over projects and types it knows nothing of, and statuses the flow has no longer', () => {
    expect(
      replay(asked, [
        move({ project: 'pr_lost' }),
        move({ type: 'ty_lost' }),
        move({ from: 'st_old', to: 'st_off' }),
      ]).refused,
    ).toEqual([])
  })

  it('agrees with looking at each move by itself', () => {
    const status = fc.constantFrom('st_open', 'st_hand', 'st_off')
    const any = fc
      .record({
        refs: fc.array(fc.constantFrom('YARD/1', 'YARD/2', 'YARD/3'), {
          minLength: 1,
          maxLength: 4,
        }),
        from: status,
        to: status,
        commented: fc.boolean(),
        cost: fc.boolean(),
      })
      .filter((entry) => entry.from !== entry.to)
    fc.assert(
      fc.property(fc.array(any, { maxLength: 60 }), (list) => {
        const moves = list.map(({ cost, ...more }) => move({ ...more, filled: () => cost }))
        const flow = flowOf(asked, 'rb_all', 'ty_job')
        const each = moves.flatMap((move) => move.refs.map((ref) => ({ ...move, ref })))
        const count = (
          why: string,
          refuses: (pastMoves: PastMoves) => boolean,
        ): [number, number] => {
          const found = replay(asked, moves).refused.filter((refused) => refused.why === why)
          const brute = each.filter(refuses)
          expect(found.reduce((sum, refused) => sum + refused.moves, 0)).toBe(brute.length)
          return [
            new Set(found.flatMap((refused) => refused.refs)).size,
            new Set(brute.map((entry) => entry.ref)).size,
          ]
        }
        const allowed = (pastMoves: PastMoves): boolean =>
          flow.moves.has(`${pastMoves.from}:${pastMoves.to}`)
        for (const [found, brute] of [
          count('flow', (pastMoves) => !allowed(pastMoves)),
          count(
            'comment',
            (pastMoves) => allowed(pastMoves) && pastMoves.to === 'st_off' && !pastMoves.commented,
          ),
          count(
            'filled',
            (pastMoves) =>
              allowed(pastMoves) && pastMoves.to === 'st_off' && !pastMoves.filled('fi_cost'),
          ),
        ])
          expect(found).toBe(brute)
      }),
      { numRuns: 150 },
    )
  })
})
