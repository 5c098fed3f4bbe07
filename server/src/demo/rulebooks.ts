import { elementAt, entryOf, firstIn } from '@bluestem/core/known'
import type { Rulebook } from '@bluestem/core/definitions'
import { orderKeys } from '@bluestem/core/definitions'

/** What a rulebook says of one thing. */
type RulebookEntry = Rulebook['entries'][string]

/** Statuses in order, the first is where items start, and for each where it may go. */
type FlowOfType = Readonly<Record<string, readonly string[]>>

/** What everybody works by. */
const common: Readonly<Record<string, FlowOfType>> = {
  programme: {
    open: ['hand', 'withdrawn'],
    hand: ['signed', 'withdrawn'],
    signed: ['hand'],
    withdrawn: ['open'],
  },
  package: {
    open: ['hand', 'withdrawn'],
    hand: ['open', 'signed', 'withdrawn'],
    signed: ['hand'],
    withdrawn: ['open'],
  },
  job: {
    open: ['hand', 'withdrawn'],
    hand: ['open', 'signed', 'withdrawn'],
    signed: ['hand'],
    withdrawn: ['open'],
  },
  defect: {
    open: ['hand', 'withdrawn'],
    hand: ['open', 'signed', 'withdrawn'],
    signed: ['hand'],
    withdrawn: ['open'],
  },
  check: {
    open: ['signed', 'hand', 'withdrawn'],
    hand: ['signed', 'open'],
    signed: ['open'],
    withdrawn: ['open'],
  },
}

const fieldsOf: Readonly<Record<string, readonly string[]>> = {
  programme: ['progress', 'below'],
  package: ['safety', 'progress', 'below'],
  job: ['safety'],
  defect: ['found', 'safety'],
  check: [],
  inspection: ['next', 'surveyor', 'certificate', 'safety'],
  finding: ['found', 'note', 'next', 'safety'],
  change: ['safety'],
}

const builtIn = [
  'priority',
  'assignee',
  'due',
  'start',
  'estimate',
  'remaining',
  'components',
  'labels',
  'parent',
]

/** Everything a rulebook says of a type: its flow, its form on an item and its form when one is made. */
function typeEntries(
  type: string,
  flow: FlowOfType,
  particulars: readonly string[],
): Record<string, RulebookEntry> {
  const all: Record<string, RulebookEntry> = {
    [`type:ty_${type}`]: { start: `st_${firstIn(Object.keys(flow))}` },
    ...flowEntries(type, flow),
  }
  const onItem = [...builtIn, ...particulars.map((name) => `fi_${name}`)]
  for (const [index, order] of orderKeys(onItem.length).entries())
    all[`form:ty_${type}:item:${elementAt(onItem, index)}`] = {
      order,
      section: index < builtIn.length ? '' : 'Particulars',
    }
  const whenMade = [
    'priority',
    'assignee',
    'due',
    'estimate',
    'labels',
    'parent',
    ...particulars
      .filter((name) => !['progress', 'below', 'harm'].includes(name))
      .slice(0, 2)
      .map((name) => `fi_${name}`),
  ]
  for (const [index, order] of orderKeys(whenMade.length).entries())
    all[`form:ty_${type}:make:${elementAt(whenMade, index)}`] = { order }
  return all
}

function flowEntries(type: string, flow: FlowOfType): Record<string, RulebookEntry> {
  const names = Object.keys(flow)
  return Object.fromEntries(
    orderKeys(names.length).flatMap((order, index): [string, RulebookEntry][] => [
      [`status:ty_${type}:st_${elementAt(names, index)}`, { order }],
      ...entryOf(flow, elementAt(names, index)).map((to): [string, RulebookEntry] => [
        `move:ty_${type}:st_${elementAt(names, index)}:st_${to}`,
        {},
      ]),
    ]),
  )
}

/** Further particulars on the form of a type, after those of the rulebook it extends. */
const more = (type: string, names: readonly string[]): Record<string, RulebookEntry> =>
  Object.fromEntries(
    orderKeys(names.length).map((order, index) => [
      `form:ty_${type}:item:fi_${elementAt(names, index)}`,
      {
        order: `b${order}`,
        section: 'At the yard',
        ...(names[index] === 'trial' ? { shownWhen: { field: 'fi_safety', values: [true] } } : {}),
      },
    ]),
  )

/** Work that is planned into iterations says into which, before all else on its form. */
const planned = (type: string): Record<string, RulebookEntry> => ({
  [`form:ty_${type}:item:iteration`]: { order: 'Zz', section: '' },
})

/** Work that comes out with releases says with which, right after. */
const released = (type: string): Record<string, RulebookEntry> => ({
  [`form:ty_${type}:item:release`]: { order: 'ZzV', section: '' },
})

export const everyone: Record<string, RulebookEntry> = {
  ladder: { ladder: 'ld_operations' },
  unit: { unit: 'hours' },
  'family:fa_deck': {},
  'family:fa_gear': {},
  'link:lk_waits': {},
  'link:lk_belongs': {},
  'link:lk_repeats': {},
  ...Object.fromEntries(
    Object.entries(common).flatMap(([type, flow]) =>
      Object.entries(typeEntries(type, flow, entryOf(fieldsOf, type))),
    ),
  ),
}

/** The yard waits for parts and for surveyors; a defect that waits for one says for whom. */
export const yard: Record<string, RulebookEntry> = {
  ...flowEntries('defect', {
    open: ['hand', 'parts', 'withdrawn'],
    hand: ['open', 'parts', 'surveyor', 'signed', 'withdrawn'],
    parts: ['hand', 'withdrawn'],
    surveyor: ['hand', 'signed'],
    signed: ['hand'],
    withdrawn: ['open'],
  }),
  ...flowEntries('job', {
    open: ['hand', 'withdrawn'],
    hand: ['open', 'parts', 'signed', 'withdrawn'],
    parts: ['hand', 'withdrawn'],
    signed: ['hand'],
    withdrawn: ['open'],
  }),
  ...more('defect', [
    'hours',
    'cost',
    'berth',
    'spare',
    'surveyor',
    'certificate',
    'warranty',
    'trial',
    'harm',
    'yardno',
  ]),
  ...released('job'),
  ...more('job', ['cost', 'crew', 'berth', 'spare', 'tide']),
  'requirement:ty_defect:st_surveyor': {
    requires: { filled: ['fi_surveyor'], says: 'Name the surveyor who is to see it.' },
  },
}

export const digital: Record<string, RulebookEntry> = {
  ladder: { ladder: 'ld_digital' },
  unit: { unit: 'points' },
  'family:fa_deck': 'out',
  'type:ty_programme': 'out',
  ...typeEntries(
    'change',
    {
      open: ['ready', 'withdrawn'],
      ready: ['open', 'hand', 'withdrawn'],
      hand: ['ready', 'review', 'withdrawn'],
      review: ['hand', 'signed'],
      signed: ['hand'],
      withdrawn: ['open'],
    },
    entryOf(fieldsOf, 'change'),
  ),
  ...planned('change'),
  ...released('change'),
  ...planned('defect'),
}

export const safety: Record<string, RulebookEntry> = {
  'family:fa_proof': { requiredFor: ['ty_finding'], closed: true },
  'limit:tl_answer': {},
  'limit:tl_remedy': {},
  ...typeEntries(
    'inspection',
    { open: ['hand', 'withdrawn'], hand: ['signed', 'open'], signed: [], withdrawn: ['open'] },
    entryOf(fieldsOf, 'inspection'),
  ),
  ...typeEntries(
    'finding',
    {
      open: ['hand', 'withdrawn'],
      hand: ['proof', 'open'],
      proof: ['hand', 'signed'],
      signed: ['hand'],
      withdrawn: ['open'],
    },
    entryOf(fieldsOf, 'finding'),
  ),
  'requirement:ty_finding:st_signed': {
    requires: { been: ['st_proof'], says: 'A finding is signed off once its proof was seen.' },
  },
}
