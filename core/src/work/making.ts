import { asRecord, asTexts } from '../known/index.ts'
import { dayOf } from '../calendar/day.ts'
import type { DefinitionsDocument } from '../definitions/document/document.ts'
import type { Field } from '../definitions/document/entries.ts'
import { inOrder } from '../definitions/document/ordered.ts'
import { defaultValue } from '../definitions/document/standard.ts'
import { fieldTitle } from '../definitions/rulebook/requirement.ts'
import { defaultPriority, flowOf, formOf, typesOf } from '../definitions/rulebook/rulebook.ts'
import { isShown } from '../definitions/rulebook/shown.ts'
import type { Facts, FactValue } from '../queries/tree/facts.ts'
import type { Vocabulary } from '../queries/tree/vocabulary.ts'
import { keeperOf } from './edit.ts'
import { heldIn, holdsSomething } from './entering.ts'
import { judgeFamilies, pickOne } from './family.ts'
import { type Given, readGiven, type ReadGiven } from './given.ts'
import { Ground } from './ground.ts'
import { judgeParent } from './parent.ts'
import { invalid, refused, type Refusal, type WrongPart } from './refusal.ts'
import { rulebookOf, type WorkRules } from './rules.ts'

/** A new item as it will be, without its number and its place; or why it is not made. */
export type JudgedNew =
  { readonly ok: true; readonly item: Facts } | { readonly ok: false; readonly refusal: Refusal }

const idOf = (value: unknown): unknown =>
  value !== null && typeof value === 'object' && 'id' in value ? value.id : value

/** The identity of the keeper of the first of the given components that has one. */
function keeperGiven(rules: WorkRules, project: string, given: unknown): string | undefined {
  const written = (Array.isArray(given) ? given : []).map((entry: unknown) => idOf(entry))
  const ids = written.flatMap((entry) =>
    [...rules.components]
      .filter(
        ([id, component]) =>
          component.project === project && (id === entry || component.title === entry),
      )
      .map(([id]) => id),
  )
  return keeperOf(rules, ids) ?? undefined
}

/** What is given of a new item with what its definitions give where nothing is said: defaults of fields, and the keeper of its component. */
export function withDefaults(rules: WorkRules, project: string, given: Given): Given {
  const { document, zone, now, person } = rules
  const rulebook = rulebookOf(rules, project)
  const written = idOf(given['type'])
  const type = typesOf(document, rulebook).find(
    (id) => id === written || document.types[id]?.title === written,
  )
  if (type === undefined) return given
  const fields: Record<string, unknown> = { ...asRecord(given['fields']) }
  const forms = (['item', 'make'] as const).flatMap((form) =>
    formOf(document, rulebook, type, form),
  )
  const onForms = new Set(forms.map((form) => form.field))
  const moment = { today: dayOf(now, zone), zone, me: person.id }
  for (const field of orderedFields(document)) {
    if (!onForms.has(field.id) || field.handle in fields) continue
    const value = defaultValue(field, moment)
    if (value !== undefined) fields[field.handle] = value
  }
  const keeper = 'assignee' in given ? undefined : keeperGiven(rules, project, given['components'])
  return {
    ...given,
    ...(Object.keys(fields).length > 0 ? { fields } : {}),
    ...(keeper ? { assignee: keeper } : {}),
  }
}

/** Refuses a type that the project does not offer, with those it does. */
function judgeOffered(rules: WorkRules, project: string, type: string): Refusal | undefined {
  const { document, projects } = rules
  const offered = typesOf(document, rulebookOf(rules, project))
  if (offered.includes(type)) return undefined
  const title = (id: string): string => document.types[id]?.title ?? id
  return refused(
    `${projects.get(project)?.title ?? project} has no items of type ${title(type)}.`,
    [
      {
        pointer: '/type',
        message: 'The rulebook does not offer this type.',
        expected: offered.map(title).join(', '),
      },
    ],
  )
}

/** Refuses a first status outside the flow of the type. */
function judgeStart(rules: WorkRules, item: Facts): Refusal | undefined {
  const { document } = rules
  const type = String(item['type'])
  const status = String(item['status'])
  const flow = flowOf(document, rulebookOf(rules, String(item['project'])), type)
  if (status === flow.start || flow.statuses.includes(status)) return undefined
  return refused(
    `${document.statuses[status]?.title ?? status} is not in the flow of ${document.types[type]?.title ?? type}.`,
    [{ pointer: '/status', message: 'Not in the flow of the type.' }],
  )
}

/** Refuses an item that lacks what its form requires, and names every such field. */
function judgeRequired(rules: WorkRules, item: Facts): Refusal | undefined {
  const { document } = rules
  const type = String(item['type'])
  const held = (field: string): readonly FactValue[] => {
    const value = heldIn(rules, item, field)
    if (Array.isArray(value)) return asTexts(value)
    return value === null ? [] : [value]
  }
  const missing = formOf(document, rulebookOf(rules, String(item['project'])), type, 'make').filter(
    (formField) =>
      formField.required &&
      isShown(formField.shownWhen, held) &&
      !holdsSomething(rules, item, formField.field),
  )
  if (missing.length === 0) return undefined
  return invalid(
    missing.map(({ field }) => {
      const custom = document.fields[field]
      return {
        pointer: custom ? `/fields/${custom.handle}` : `/${field}`,
        message: `${fieldTitle(document, field)} must be filled when ${document.types[type]?.title ?? type} is made.`,
        expected: 'a value',
      }
    }),
  )
}

/** What no item is without: its type and its title. */
function missingOf(
  rules: WorkRules,
  project: string,
  { values }: ReadGiven,
  given: Given,
): WrongPart[] {
  const isMissing = (handle: string): boolean =>
    values[handle] === undefined && (given[handle] ?? null) === null
  const types = typesOf(rules.document, rulebookOf(rules, project))
  const offered = types.map((id) => rules.document.types[id]?.title ?? id).join(', ')
  return [
    ...(isMissing('type')
      ? [{ pointer: '/type', message: 'An item needs a type.', expected: offered }]
      : []),
    ...(isMissing('title')
      ? [{ pointer: '/title', message: 'An item needs a title.', expected: 'a title' }]
      : []),
  ]
}

/** What is the same for every new item is made once: a file makes a hundred thousand. */
const emptyItems = new WeakMap<Vocabulary, Facts>()
const fieldsInOrder = new WeakMap<DefinitionsDocument, ReturnType<typeof inOrder<Field>>>()

/** Everything an item holds when nothing is given. */
function emptyItem({ vocabulary }: WorkRules): Facts {
  const known = emptyItems.get(vocabulary)
  if (known) return known
  const made = Object.fromEntries(
    [...vocabulary.properties.values()]
      .filter((property) => !property.computed)
      .map(({ handle, type }) => [handle, type.kind === 'array' ? [] : null]),
  )
  emptyItems.set(vocabulary, made)
  return made
}

/** The fields in their order. */
function orderedFields(document: DefinitionsDocument): ReturnType<typeof inOrder<Field>> {
  const known = fieldsInOrder.get(document)
  if (known) return known
  const made = inOrder(document.fields)
  fieldsInOrder.set(document, made)
  return made
}

/** An item that nobody judged yet: what is given, and what its definitions give where nothing is said. */
function drawUp(rules: WorkRules, project: string, values: Facts): Facts {
  const { document } = rules
  const rulebook = rulebookOf(rules, project)
  const labels = pickOne(rules, asTexts(values['labels']), [])
  const status =
    values['status'] ?? flowOf(document, rulebook, String(values['type'])).start ?? null
  return {
    ...emptyItem(rules),
    priority: defaultPriority(document, rulebook),
    ...values,
    project,
    labels,
    status,
    phase: document.statuses[String(status)]?.phase ?? null,
    on_hold: values['on_hold'] ?? false,
    deleted: false,
  }
}

const nothingThere = new Ground({
  items: new Map(),
  relatives: new Map(),
  below: new Map(),
  past: new Map(),
})

/** An item of a type as it would be if it were made now with nothing said about it, its title left out. */
export function plainItem(rules: WorkRules, project: string, type: string): Facts {
  const { values } = readGiven(rules, nothingThere, withDefaults(rules, project, { type }), project)
  const { now, person } = rules
  return {
    ...drawUp(rules, project, { ...values, type }),
    created: now,
    changed: now,
    raised_by: person.id,
    comments: '0',
    code_changes: '0',
  }
}

/**
 * Judges a new item: every value, its type, its first status, its parent, what its form requires and its families; where nothing is
 * said, the definitions give what they give.
 *
 * @param project the identity of the project it is made in, which follows a rulebook
 */
export function judgeNew(
  rules: WorkRules,
  ground: Ground,
  project: string,
  given: Given,
): JudgedNew {
  const read = readGiven(rules, ground, withDefaults(rules, project, given), project)
  const wrong = [...read.wrong, ...missingOf(rules, project, read, given)]
  if (wrong.length > 0) return { ok: false, refusal: invalid(wrong) }
  const { values } = read
  const type = String(values['type'])
  const offered = judgeOffered(rules, project, type)
  if (offered) return { ok: false, refusal: offered }
  const item = drawUp(rules, project, values)
  const parent = item['parent'] ?? null
  const refusal =
    judgeStart(rules, item) ??
    (parent === null ? undefined : judgeParent(rules, ground, null, type, String(parent))) ??
    judgeRequired(rules, item) ??
    judgeFamilies(rules, rulebookOf(rules, project), type, asTexts(item['labels']))
  return refusal ? { ok: false, refusal } : { ok: true, item }
}
