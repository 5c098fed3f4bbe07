import { entryOf } from '../known/index.ts'
import type { Field } from '../definitions/document/entries.ts'
import type { DefinitionsDocument } from '../definitions/document/document.ts'
import { builtIns } from '../queries/tree/vocabulary.ts'
import type { Node, TemplateContent } from './content.ts'
import type { Stale } from './schema.ts'
import { formOf, ladderOf, mayStandBelow, typesOf } from '../definitions/rulebook/rulebook.ts'
import { furthest, isRelative, isWithinReach } from './relativeDay.ts'
import { givenHandles } from '../work/schema.ts'
import { fieldKind, isComputed } from '../definitions/document/fieldKinds.ts'

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

const takenOut = (pointer: string, message: string): Stale[] => [{ pointer, message, mend: out }]

function stalePriority(
  pointer: string,
  id: string,
  { document, rulebook }: TemplateGround,
): Stale[] {
  const ladder = document.ladders[ladderOf(document, rulebook) ?? '']
  const priority = document.priorities[id]
  if (ladder?.rungs[id] && !priority?.retired) return []
  const title = priority?.title ?? id
  return takenOut(
    pointer,
    `The priority “${title}” is not offered on the ladder “${ladder?.title ?? 'none'}”.`,
  )
}

function staleValue(
  pointer: string,
  handle: string,
  value: unknown,
  ground: TemplateGround,
): Stale[] {
  if (!known.has(handle)) return takenOut(pointer, `Items have no “${handle}”.`)
  if (!givenHandles.has(handle))
    return takenOut(
      pointer,
      `“${handle}” follows from what happens to an item; a template cannot give it.`,
    )
  if (isRelative(value) && !isWithinReach(value)) return [tooFar(pointer)]
  if (handle === 'priority') return stalePriority(pointer, String(value), ground)
  const domain = domains[handle]
  if (!domain) return []
  const values = Array.isArray(value) ? value : [value]
  const gone = values.filter((id) => !ground.offered(domain, String(id)))
  if (gone.length === 0) return []
  const subject =
    gone.length === 1 ? `A ${domain} it gives is` : `${gone.length} ${domain}s it gives are`
  return takenOut(pointer, `${subject} no longer offered.`)
}

/** Why a field can be given nothing at all, in words; undefined where it can. */
function whyNotGiven(
  id: string,
  field: Field,
  type: string,
  { document, rulebook }: TemplateGround,
): string | undefined {
  if (field.retired) return `The field “${field.title}” is retired.`
  if (isComputed(field.kind))
    return `The field “${field.title}” is computed, so nothing can be given.`
  const forms = (['item', 'make'] as const).flatMap((form) =>
    formOf(document, rulebook, type, form),
  )
  if (forms.some((form) => form.field === id)) return undefined
  return `The field “${field.title}” is no longer on the form of “${document.types[type]?.title}”.`
}

function staleField(
  pointer: string,
  handle: string,
  value: unknown,
  type: string,
  ground: TemplateGround,
): Stale[] {
  const { document, offered } = ground
  const [id, field] =
    Object.entries(document.fields).find(([, entry]) => entry.handle === handle) ?? []
  if (!id || !field) return takenOut(pointer, `There is no field with the handle “${handle}”.`)
  const why = whyNotGiven(id, field, type, ground)
  if (why) return takenOut(pointer, why)
  if (isRelative(value) && !isWithinReach(value)) return [tooFar(pointer)]
  const values: readonly unknown[] = Array.isArray(value) ? value : [value]
  if (fieldKind(field.kind).values === 'person') {
    const allThere = values.every((value) => value === 'me' || offered('person', String(value)))
    return allThere ? [] : takenOut(pointer, `A person in “${field.title}” is no longer there.`)
  }
  const { options } = field
  if (!options) return []
  const gone = values.map(String).filter((text) => !options[text] || options[text].retired)
  if (gone.length === 0) return []
  const titles = gone.map((text) => `“${options[text]?.title ?? text}”`).join(', ')
  const verb = gone.length === 1 ? 'is' : 'are'
  return takenOut(pointer, `${titles} ${verb} no longer offered in “${field.title}”.`)
}

function staleTree({ item, children }: TemplateContent, { document }: TemplateGround): Stale[] {
  return children.flatMap((child, index): Stale[] => {
    const above =
      child.under === undefined
        ? item
        : children.slice(0, index).find((entry) => entry.key === child.under)
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
        message: `A “${entryOf(document.types, child.type).title}” may not stand below a “${entryOf(document.types, above.type).title}”.`,
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
