import { Type, type Static } from 'typebox'
import { addDays, type Day } from '../calendar/day.ts'
import { addWorkingDays, type WorkingTime } from '../calendar/working.ts'
import { inOrder, isComputed, type DefinitionsDocument } from '../definitions/document/document.ts'
import { formOf, ladderOf, mayStandBelow, typesOf } from '../definitions/rulebook/rulebook.ts'
import { builtIns } from '../vocabulary/vocabulary.ts'
import { givenHandles } from '../work/schema.ts'

/** A day counted from the one on which a template is used. */
interface RelativeDay {
  readonly in: number
  readonly unit: 'days' | 'working days'
}
const Node = {
  title: Type.String({ minLength: 1, maxLength: 300 }),
  type: Type.String({ pattern: '^ty_[a-z0-9]{2,24}$' }),
  description: Type.Optional(Type.String({ maxLength: 20_000 })),
  values: Type.Record(Type.String(), Type.Unknown(), {
    description: 'built-in properties by handle; choices by identity, days as {in, unit}',
  }),
  fields: Type.Record(Type.String(), Type.Unknown(), { description: 'custom fields by handle' }),
}
const TemplateItem = Type.Object(Node, {
  additionalProperties: false,
  title: 'What an item begins with',
})
const TemplateChild = Type.Object(
  {
    key: Type.String({ pattern: '^[a-z0-9]{1,12}$' }),
    under: Type.Optional(
      Type.String({
        description: 'the key of the child it stands below; the item itself where it is left out',
      }),
    ),
    ...Node,
  },
  { additionalProperties: false, title: 'A child' },
)

export const TemplateContent = Type.Object(
  {
    item: TemplateItem,
    children: Type.Array(TemplateChild, { maxItems: 200 }),
    links: Type.Array(
      Type.Object(
        {
          kind: Type.String({ pattern: '^lk_[a-z0-9]{2,24}$' }),
          from: Type.String(),
          to: Type.String(),
        },
        { additionalProperties: false },
      ),
      { maxItems: 400 },
    ),
  },
  { additionalProperties: false, title: 'Content of a template' },
)
export type TemplateContent = Static<typeof TemplateContent>
type Node = Static<typeof TemplateItem>

/** What a template rests on beside the document. */
export interface TemplateGround {
  readonly document: DefinitionsDocument
  readonly rulebook: string
  /** whether a label, component, person, iteration or release may still be given */
  readonly offered: (
    domain: 'label' | 'component' | 'person' | 'iteration' | 'release',
    id: string,
  ) => boolean
}

/** One part of a template that no longer fits: where it stands, what is wrong, and what the mend does. */
export interface Stale {
  readonly pointer: string
  readonly message: string
  readonly mend: string | null
}

const domains: Record<string, 'label' | 'component' | 'person' | 'iteration' | 'release'> = {
  labels: 'label',
  components: 'component',
  assignee: 'person',
  raised_by: 'person',
  iteration: 'iteration',
  release: 'release',
}
const known = new Set(builtIns.map((property) => property.handle))

/** What of a template no longer fits its rulebook. A template with stale parts still works: what does not fit is left out and told. */
export function staleParts(content: TemplateContent, ground: TemplateGround): Stale[] {
  const nodes: [string, Node][] = [
    ['/item', content.item],
    ...content.children.map((child, index): [string, Node] => [`/children/${index}`, child]),
  ]
  return [
    ...nodes.flatMap(([at, node]) => staleNode(at, node, ground)),
    ...staleTree(content, ground),
    ...staleLinks(content, ground),
  ]
}

function staleNode(at: string, node: Node, ground: TemplateGround): Stale[] {
  const { document, rulebook } = ground
  const type = document.types[node.type]
  if (!type || type.retired || !typesOf(document, rulebook).includes(node.type))
    return [
      {
        pointer: `${at}/type`,
        message: `“${document.rulebooks[rulebook]?.title ?? rulebook}” no longer offers ${type ? `the type “${type.title}”` : 'this type'}.`,
        mend: null,
      },
    ]
  return [
    ...Object.entries(node.values).flatMap(([handle, value]) =>
      staleValue(`${at}/values/${handle}`, handle, value, ground),
    ),
    ...Object.entries(node.fields).flatMap(([handle, value]) =>
      staleField(`${at}/fields/${handle}`, handle, value, node.type, ground),
    ),
  ]
}

const out = 'take the value out'

const tooFar = (pointer: string): Stale => ({
  pointer,
  message: `A day counted from the day of use lies at most ${furthest} days away, in “days” or “working days”.`,
  mend: out,
})

function staleValue(
  pointer: string,
  handle: string,
  value: unknown,
  { document, rulebook, offered }: TemplateGround,
): Stale[] {
  if (!givenHandles.has(handle) && known.has(handle))
    return [
      {
        pointer,
        message: `“${handle}” follows from what happens to an item; a template cannot give it.`,
        mend: out,
      },
    ]
  if (isRelative(value) && !isWithinReach(value)) return [tooFar(pointer)]
  if (!known.has(handle)) return [{ pointer, message: `Items have no “${handle}”.`, mend: out }]
  if (handle === 'priority') {
    const ladder = ladderOf(document, rulebook)
    const priority = document.priorities[String(value)]
    return ladder && document.ladders[ladder]?.rungs[String(value)] && !priority?.retired
      ? []
      : [
          {
            pointer,
            message: `The priority “${priority?.title ?? String(value)}” is not offered on the ladder “${(ladder && document.ladders[ladder]?.title) ?? 'none'}”.`,
            mend: out,
          },
        ]
  }
  const domain = domains[handle]
  const gone = domain
    ? (Array.isArray(value) ? value : [value]).filter((id) => !offered(domain, String(id)))
    : []
  return gone.length === 0
    ? []
    : [
        {
          pointer,
          message: `${gone.length === 1 ? `A ${domain} it gives is` : `${gone.length} ${domain}s it gives are`} no longer offered.`,
          mend: out,
        },
      ]
}

function staleField(
  pointer: string,
  handle: string,
  value: unknown,
  type: string,
  { document, rulebook, offered }: TemplateGround,
): Stale[] {
  const [id, field] = Object.entries(document.fields).find(([, one]) => one.handle === handle) ?? []
  if (!id || !field)
    return [{ pointer, message: `There is no field with the handle “${handle}”.`, mend: out }]
  if (field.retired)
    return [{ pointer, message: `The field “${field.title}” is retired.`, mend: out }]
  if (isComputed(field.kind))
    return [
      {
        pointer,
        message: `The field “${field.title}” is computed, so nothing can be given.`,
        mend: out,
      },
    ]
  if (isRelative(value) && !isWithinReach(value)) return [tooFar(pointer)]
  if (
    ![
      ...formOf(document, rulebook, type, 'item'),
      ...formOf(document, rulebook, type, 'make'),
    ].some((one) => one.field === id)
  )
    return [
      {
        pointer,
        message: `The field “${field.title}” is no longer on the form of “${document.types[type]?.title}”.`,
        mend: out,
      },
    ]
  const values = Array.isArray(value) ? value : [value]
  if (field.kind === 'person' || field.kind === 'people')
    return values.every((one) => one === 'me' || offered('person', String(one)))
      ? []
      : [{ pointer, message: `A person in “${field.title}” is no longer there.`, mend: out }]
  if (!field.options) return []
  const gone = values
    .filter((one) => !field.options![String(one)] || field.options![String(one)]!.retired)
    .map((one) => `“${field.options![String(one)]?.title ?? String(one)}”`)
  return gone.length === 0
    ? []
    : [
        {
          pointer,
          message: `${gone.join(', ')} ${gone.length === 1 ? 'is' : 'are'} no longer offered in “${field.title}”.`,
          mend: out,
        },
      ]
}

function staleTree({ item, children }: TemplateContent, { document }: TemplateGround): Stale[] {
  return children.flatMap((child, index): Stale[] => {
    const above =
      child.under === undefined
        ? item
        : children.slice(0, index).find((one) => one.key === child.under)
    if (!above)
      return [
        {
          pointer: `/children/${index}/under`,
          message: `“${child.title}” stands below something that does not come before it.`,
          mend: 'put it below the item itself',
        },
      ]
    if (
      !document.types[child.type] ||
      !document.types[above.type] ||
      mayStandBelow(document, child.type, above.type)
    )
      return []
    return [
      {
        pointer: `/children/${index}/type`,
        message: `A “${document.types[child.type]!.title}” may not stand below a “${document.types[above.type]!.title}”.`,
        mend: null,
      },
    ]
  })
}

function staleLinks({ children, links }: TemplateContent, { document }: TemplateGround): Stale[] {
  const keys = new Set(['item', ...children.map((child) => child.key)])
  return links.flatMap((link, index): Stale[] => {
    const kind = document.linkKinds[link.kind]
    if (!keys.has(link.from) || !keys.has(link.to))
      return [
        {
          pointer: `/links/${index}`,
          message: 'A link names a child that is not there.',
          mend: 'take the link out',
        },
      ]
    return kind && !kind.retired
      ? []
      : [
          {
            pointer: `/links/${index}/kind`,
            message: `The link kind “${kind?.title ?? link.kind}” is no longer offered.`,
            mend: 'take the link out',
          },
        ]
  })
}

/** A template with every mend made that can be made without asking. */
export function mendTemplate(content: TemplateContent, ground: TemplateGround): TemplateContent {
  const mends = staleParts(content, ground)
    .filter((part) => part.mend !== null)
    .map((part) => part.pointer)
  const without = (at: string, of: Readonly<Record<string, unknown>>): Record<string, unknown> =>
    Object.fromEntries(Object.entries(of).filter(([handle]) => !mends.includes(`${at}/${handle}`)))
  const mended = <T extends Node>(at: string, node: T): T => ({
    ...node,
    values: without(`${at}/values`, node.values),
    fields: without(`${at}/fields`, node.fields),
  })
  return {
    item: mended('/item', content.item),
    children: content.children.map((child, index) => {
      const { under, ...rest } = mended(`/children/${index}`, child)
      return under === undefined || mends.includes(`/children/${index}/under`)
        ? rest
        : { ...rest, under }
    }),
    links: content.links.filter(
      (_, index) =>
        !mends.some(
          (pointer) => pointer === `/links/${index}` || pointer.startsWith(`/links/${index}/`),
        ),
    ),
  }
}

/** The blanks in a template's texts, each once, in the order in which they are read: `[[vessel]]`. */
export function blanksOf({ item, children }: TemplateContent): string[] {
  const texts = [item, ...children].flatMap((node) => [
    node.title,
    node.description ?? '',
    ...[...Object.values(node.values), ...Object.values(node.fields)].filter(
      (value) => typeof value === 'string',
    ),
  ])
  return [
    ...new Set(
      texts.flatMap((text) =>
        [...text.matchAll(/\[\[([^[\]]{1,60})\]\]/g)].map((match) => match[1]!.trim()),
      ),
    ),
  ]
}

export interface Filling {
  readonly today: Day
  readonly working: WorkingTime
  readonly blanks: Readonly<Record<string, string>>
}

/** One item a template makes: `key` names it for those below it. */
export interface Filled {
  readonly key: string
  readonly under: string | null
  readonly title: string
  readonly type: string
  readonly description?: string
  readonly values: Readonly<Record<string, unknown>>
  readonly fields: Readonly<Record<string, unknown>>
}

/** The items of a template with blanks filled and days worked out, each after the one it stands below. Unfilled blanks stay to be seen. */
export function fillTemplate(content: TemplateContent, filling: Filling): Filled[] {
  const node = (key: string, under: string | null, one: Node): Filled => ({
    key,
    under,
    type: one.type,
    title: filledText(one.title, filling),
    ...(one.description === undefined ? {} : { description: filledText(one.description, filling) }),
    values: filledValues(one.values, filling),
    fields: filledValues(one.fields, filling),
  })
  return [
    node('item', null, content.item),
    ...content.children.map((child) => node(child.key, child.under ?? 'item', child)),
  ]
}

const filledText = (text: string, { blanks }: Filling): string =>
  text.replaceAll(/\[\[([^[\]]{1,60})\]\]/g, (whole, name: string) => blanks[name.trim()] ?? whole)

const filledValues = (
  values: Readonly<Record<string, unknown>>,
  filling: Filling,
): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(values).map(([handle, value]) => [
      handle,
      isRelative(value)
        ? dayOfRelative(value, filling)
        : typeof value === 'string'
          ? filledText(value, filling)
          : value,
    ]),
  )

const isRelative = (value: unknown): value is RelativeDay =>
  typeof value === 'object' && value !== null && 'in' in value && 'unit' in value

/** How far a day may lie from the one on which a template is used: a hundred years. */
const furthest = 36_525

const isWithinReach = ({ in: count, unit }: RelativeDay): boolean =>
  Number.isInteger(count) &&
  Math.abs(count) <= furthest &&
  (unit === 'days' || unit === 'working days')

function dayOfRelative({ in: given, unit }: RelativeDay, { today, working }: Filling): Day {
  const count = Math.max(-furthest, Math.min(furthest, Math.trunc(Number(given)) || 0))
  return unit === 'days' ? addDays(today, count) : addWorkingDays(today, count, working)
}

/** What a template would change on an item that exists: what is empty only, or everything the template gives. */
export function fillInto(
  given: Readonly<Record<string, unknown>>,
  held: Readonly<Record<string, unknown>>,
  how: 'fill' | 'replace',
): Record<string, unknown> {
  const isEmpty = (value: unknown): boolean =>
    value === null || value === undefined || (Array.isArray(value) && value.length === 0)
  return Object.fromEntries(
    Object.entries(given).filter(
      ([handle, value]) =>
        JSON.stringify(held[handle] ?? null) !== JSON.stringify(value) &&
        (how === 'replace' || isEmpty(held[handle])),
    ),
  )
}

/** The types a template's item may have in a rulebook, in their order. */
export const templateTypes = (document: DefinitionsDocument, rulebook: string): string[] =>
  inOrder(document.types)
    .map((type) => type.id)
    .filter((id) => typesOf(document, rulebook).includes(id) && !document.types[id]?.retired)
