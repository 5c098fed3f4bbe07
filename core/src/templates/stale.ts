import type { DefinitionsDocument } from '../definitions/document/document.ts'
import { builtIns } from '../vocabulary/vocabulary.ts'
import type { Node, TemplateContent } from './content.ts'
import { formOf, ladderOf, mayStandBelow, typesOf } from '../definitions/rulebook/rulebook.ts'
import { furthest, isRelative, isWithinReach } from './relativeDay.ts'
import { givenHandles } from '../work/schema.ts'
import { isComputed } from '../definitions/document/fieldKinds.ts'

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
