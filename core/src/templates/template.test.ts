import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { soundDocument } from '../../test/document.ts'
import { replaceAt } from '../definitions/draft/change.ts'
import { namesIn } from '../definitions/document/named.ts'
import type { DefinitionsDocument } from '../definitions/document/document.ts'
import { blanksOf, fillInto, fillTemplate } from './fill.ts'
import { mendTemplate } from './mend.ts'
import { staleParts, type TemplateGround } from './stale.ts'
import type { TemplateContent } from './content.ts'

const document: DefinitionsDocument = {
  ...replaceAt(
    replaceAt(soundDocument, ['types', 'ty_check'], {
      order: 'z',
      title: 'Check',
      monogram: 'Ck',
      tier: 0,
      description: '',
    }),
    ['linkKinds', 'lk_waits'],
    { order: 'a', title: 'waits for', inverse: 'holds up', description: '' },
  ),
  rulebooks: {
    rb_all: {
      ...soundDocument.rulebooks['rb_all']!,
      entries: {
        ...soundDocument.rulebooks['rb_all']!.entries,
        'type:ty_check': { start: 'st_open' },
        'form:ty_job:make:fi_berth': { order: 'c' },
      },
    },
  },
}

const ground = (changed: DefinitionsDocument = document): TemplateGround => ({
  document: changed,
  rulebook: 'rb_all',
  offered: (_, id) => !id.endsWith('gone'),
})
const refit: TemplateContent = {
  item: {
    title: 'Refit of [[vessel]]',
    type: 'ty_job',
    description: 'Lay up [[vessel]] at [[berth]].',
    values: { priority: 'pi_later', due: { in: 10, unit: 'working days' }, labels: ['la_winter'] },
    fields: { cost: 100, berth: 'op_north' },
  },
  children: [
    {
      key: 'hull',
      title: 'Hull of [[vessel]]',
      type: 'ty_check',
      values: { due: { in: 3, unit: 'days' } },
      fields: {},
    },
    { key: 'paint', title: 'Paint', type: 'ty_check', values: {}, fields: {} },
  ],
  links: [{ kind: 'lk_waits', from: 'paint', to: 'hull' }],
}

const stale = (changed: DefinitionsDocument, content = refit): string[] =>
  staleParts(content, ground(changed)).map((part) => `${part.pointer}: ${part.message}`)

describe('a template', () => {
  it('fits what it was made for', () => {
    expect(staleParts(refit, ground())).toEqual([])
  })

  it('stays whole when a field is renamed', () => {
    expect(stale(replaceAt(document, ['fields', 'fi_cost', 'title'], 'Price'))).toEqual([])
  })

  it.each<[string, DefinitionsDocument, TemplateContent, RegExp]>([
    [
      'a type that is no longer offered',
      replaceAt(document, ['rulebooks', 'rb_all', 'entries', 'type:ty_check'], undefined),
      refit,
      /\/children\/0\/type: “Everyone” no longer offers the type “Check”/,
    ],
    [
      'a retired type',
      replaceAt(document, ['types', 'ty_job', 'retired'], true),
      refit,
      /\/item\/type/,
    ],
    [
      'a priority off the ladder',
      replaceAt(document, ['ladders', 'ld_ops', 'rungs', 'pi_later'], undefined),
      refit,
      /“Later” is not offered on the ladder “Operations”/,
    ],
    [
      'a retired option',
      replaceAt(document, ['fields', 'fi_berth', 'options', 'op_north', 'retired'], true),
      refit,
      /“North” is no longer offered in “Berth”/,
    ],
    [
      'a field off the form',
      replaceAt(
        document,
        ['rulebooks', 'rb_all', 'entries', 'form:ty_job:make:fi_berth'],
        undefined,
      ),
      refit,
      /“Berth” is no longer on the form of “Job”/,
    ],
    [
      'a retired field',
      replaceAt(document, ['fields', 'fi_cost', 'retired'], true),
      refit,
      /“Cost” is retired/,
    ],
    [
      'a label that is gone',
      document,
      { ...refit, item: { ...refit.item, values: { labels: ['la_gone', 'la_winter'] } } },
      /A label it gives is no longer offered/,
    ],
    [
      'a handle nobody knows',
      document,
      { ...refit, item: { ...refit.item, fields: { prize: 1 } } },
      /no field with the handle “prize”/,
    ],
    [
      'a value that is none',
      document,
      { ...refit, item: { ...refit.item, values: { mood: 'x' } } },
      /Items have no “mood”/,
    ],
    [
      'a child below what comes later',
      document,
      { ...refit, children: [{ ...refit.children[0]!, under: 'paint' }, refit.children[1]!] },
      /does not come before/,
    ],
    [
      'a child of too high a tier',
      document,
      { ...refit, children: [{ ...refit.children[0]!, type: 'ty_job' }], links: [] },
      /“Job” may not stand below a “Job”/,
    ],
    [
      'a link to nothing',
      document,
      { ...refit, links: [{ kind: 'lk_waits', from: 'paint', to: 'lost' }] },
      /not there/,
    ],
    [
      'a retired link kind',
      replaceAt(document, ['linkKinds', 'lk_waits', 'retired'], true),
      refit,
      /“waits for” is no longer offered/,
    ],
  ])('tells %s', (_, changed, content, message) => {
    expect(stale(changed, content).join('\n')).toMatch(message)
  })

  it('mended has nothing stale left that could be mended', () => {
    const changes = fc.subarray<[string[], unknown]>([
      [['ladders', 'ld_ops', 'rungs', 'pi_later'], undefined],
      [['fields', 'fi_cost', 'retired'], true],
      [['fields', 'fi_berth', 'options', 'op_north', 'retired'], true],
      [['linkKinds', 'lk_waits', 'retired'], true],
      [['types', 'ty_check', 'retired'], true],
    ])
    fc.assert(
      fc.property(changes, (steps) => {
        const changed = steps.reduce((all, [path, after]) => replaceAt(all, path, after), document)
        const mended = mendTemplate(refit, ground(changed))
        expect(staleParts(mended, ground(changed)).filter((part) => part.mend !== null)).toEqual([])
        expect(mended.children).toHaveLength(2)
      }),
    )
  })

  it('asks for its blanks once and fills them everywhere, with days worked out', () => {
    expect(blanksOf(refit)).toEqual(['vessel', 'berth'])
    const office = {
      hours: Object.fromEntries([1, 2, 3, 4, 5].map((day) => [day, [['08:00', '17:00'] as const]])),
      daysOff: [{ day: '2026-12-08', title: 'Lake day' }],
    }
    const filled = fillTemplate(refit, {
      today: '2026-11-25',
      working: office,
      blanks: { vessel: 'Petrel' },
    })
    expect(
      filled.map(({ key, under, title, values }) => [key, under, title, values['due']]),
    ).toEqual([
      ['item', null, 'Refit of Petrel', '2026-12-10'],
      ['hull', 'item', 'Hull of Petrel', '2026-11-28'],
      ['paint', 'item', 'Paint', undefined],
    ])
    expect(filled[0]!.description).toBe('Lay up Petrel at [[berth]].')
  })

  it('on an item that exists fills what is empty, or replaces', () => {
    const held = { priority: 'pi_now', labels: [], due: null, cost: '100' }
    expect(
      fillInto(
        { priority: 'pi_later', labels: ['la_a'], due: '2026-12-01', cost: '100' },
        held,
        'fill',
      ),
    ).toEqual({ labels: ['la_a'], due: '2026-12-01' })
    expect(
      fillInto({ priority: 'pi_later', labels: ['la_a'], cost: '100' }, held, 'replace'),
    ).toEqual({ priority: 'pi_later', labels: ['la_a'] })
  })

  it('names what it uses, fields by their handles, and nothing that only reads like one', () => {
    expect([...namesIn(refit, document)].sort()).toEqual([
      'fi_berth',
      'fi_cost',
      'la_winter',
      'lk_waits',
      'op_north',
      'pi_later',
      'ty_check',
      'ty_job',
    ])
    expect(
      [
        ...namesIn(
          {
            filter: { op: '=', args: [{ property: 'title' }, 'cost'] },
            columns: ['ref', 'berth'],
            order: [{ by: 'cost' }],
          },
          document,
        ),
      ].sort(),
    ).toEqual(['fi_berth', 'fi_cost'])
  })
})
