import { entryOf } from '../known/index.ts'
import { type Flow, typesOf } from '../definitions/rulebook/rulebook.ts'
import { membersOf, type Facts, type FactValue } from '../queries/tree/facts.ts'
import { readComment } from './comment.ts'
import { flowFor, judgeEntering } from './entering.ts'
import { judgeFamilies, pickOne } from './family.ts'
import { readGiven } from './given.ts'
import type { Ground } from './ground.ts'
import { refuseMove } from './move.ts'
import { judgeMoving, type Moving, takenOver } from './moving.ts'
import { judgeBelow, judgeParent } from './parent.ts'
import { invalid, refused, type Refusal } from './refusal.ts'
import { rulebookOf, type WorkRules } from './rules.ts'
import { sameValue } from './sameValue.ts'
import type { EditItem } from './schema.ts'

/** What is to be changed of an item; the place in hand order is a key that was found already. */
export type ItemChange = Omit<EditItem, 'position'> & {
  readonly place?: string
  /** that it goes to another project */
  readonly moving?: Moving | undefined
}

/** What a change made of an item, or why it is not made. */
export type Judged =
  | {
      readonly ok: true
      readonly before: Facts
      readonly after: Facts
      /** the handles whose values differ */
      readonly changed: readonly string[]
      /** what is said with the change */
      readonly comment: string | undefined
    }
  | { readonly ok: false; readonly refusal: Refusal }

const refuse = (refusal: Refusal): Judged => ({ ok: false, refusal })

/** Those of the item's new values that it did not hold before. */
export const added = (after: Facts, before: Facts, handle: 'labels' | 'components'): string[] =>
  membersOf(after[handle]).filter((id) => !membersOf(before[handle]).includes(id))

/** What follows from a change of hold: a reason stands only while an item is on hold. */
function withHold(values: Facts, item: Facts): Facts {
  const { hold_reason: reason, ...others } = values
  if (values['on_hold'] === false) return { ...values, hold_reason: null }
  if (reason === undefined || values['on_hold'] !== undefined || item['on_hold'] === true)
    return values
  return others
}

/** The keeper of the first of several components that has one. */
export const keeperOf = (
  { components }: WorkRules,
  ids: readonly string[],
): string | null | undefined => ids.map((id) => components.get(id)?.keeper).find(Boolean)

/** The keeper of a component that an item gets, where the item has nobody and nobody is given. */
function withKeeper(rules: WorkRules, values: Facts, after: Facts, before: Facts): Facts {
  if (values['components'] === undefined || 'assignee' in values) return after
  if (before['assignee'] !== null) return after
  const keeper = keeperOf(rules, added(after, before, 'components'))
  return keeper ? { ...after, assignee: keeper } : after
}

/** Whether an item goes to another project. */
const movesOver = (after: Facts, before: Facts): boolean => after['project'] !== before['project']

/** Refuses a type that the project does not offer. */
function judgeType(rules: WorkRules, item: Facts, type: string): Refusal | undefined {
  const { document, projects } = rules
  const project = String(item['project'])
  if (typesOf(document, rulebookOf(rules, project)).includes(type)) return undefined
  return refused(
    `${projects.get(project)?.title ?? project} has no items of type ${document.types[type]?.title ?? type}.`,
    [{ pointer: '/type', message: 'The rulebook does not offer this type.' }],
  )
}

/** An item whose new type does not have its status is placed in one of the type's, wherever it is; staying outside is refused. */
function judgePlacing({ document }: WorkRules, flow: Flow, to: string): Refusal | undefined {
  const offered = flow.statuses.filter((id) => !document.statuses[id]?.retired)
  if (offered.includes(to)) return undefined
  const title = (id: string): string => document.statuses[id]?.title ?? id
  const message = `${title(to)} is not in the flow of ${document.types[flow.type]?.title ?? flow.type}; say which status it gets with the new type.`
  const allowed = offered.map((id) => ({ id, title: title(id) }))
  const expected = allowed.map((entry) => entry.title).join(', ')
  return refused(message, [{ pointer: '/status', message, expected }], { allowed })
}

/** Refuses a move that the flow does not allow, with where the item may go instead. */
function judgeMove(rules: WorkRules, after: Facts, before: Facts): Refusal | undefined {
  const [from, to] = [String(before['status']), String(after['status'])]
  const flow = flowFor(rules, after)
  const isOutside =
    (after['type'] !== before['type'] || movesOver(after, before)) && !flow.statuses.includes(from)
  if (isOutside) return judgePlacing(rules, flow, to)
  if (from === to) return undefined
  const refusal = refuseMove(rules.document, flow, from, to)
  if (!refusal) return undefined
  const expected = refusal.allowed.map((entry) => entry.title).join(', ')
  return refused(refusal.message, [{ pointer: '/status', message: refusal.message, expected }], {
    allowed: refusal.allowed,
  })
}

/** Judges how an item would stand to its parent and to what is below it. */
function judgeFamilyTree(
  rules: WorkRules,
  ground: Ground,
  after: Facts,
  before: Facts,
): Refusal | undefined {
  const type = String(after['type'])
  const ref = String(after['ref'])
  const changesType = after['type'] !== before['type']
  const changesParent = after['parent'] !== before['parent']
  const above =
    after['parent'] !== null && (changesType || changesParent)
      ? judgeParent(rules, ground, ref, type, String(after['parent']))
      : undefined
  return above ?? (changesType ? judgeBelow(rules, ground, ref, type) : undefined)
}

/** What is there after a change, before anything is said of whether it may be. */
function changed(rules: WorkRules, values: Facts, before: Facts): Facts {
  const given = withHold(values, before)
  const merged: Record<string, FactValue> = { ...before, ...given }
  if (given['labels'] !== undefined)
    merged['labels'] = pickOne(rules, membersOf(given['labels']), membersOf(before['labels']))
  const status = String(merged['status'])
  const phase = rules.document.statuses[status]?.phase ?? entryOf(merged, 'phase')
  return withKeeper(rules, values, { ...merged, phase }, before)
}

/** An item before and after a change: what was given of it, and whether something is said with it. */
interface Step {
  readonly values: Facts
  readonly before: Facts
  readonly after: Facts
  readonly reasoned: boolean
}

/** The first thing that keeps a change whose values may each be given from being made. */
function judgeWhole(
  rules: WorkRules,
  ground: Ground,
  { values, before, after, reasoned }: Step,
): Refusal | undefined {
  const changesType = after['type'] !== before['type'] || movesOver(after, before)
  const entersStatus = after['status'] !== before['status']
  return (
    (changesType ? judgeType(rules, after, String(after['type'])) : undefined) ??
    judgeMove(rules, after, before) ??
    judgeLabels(rules, values, after, before) ??
    judgeFamilyTree(rules, ground, after, before) ??
    (entersStatus ? judgeEntering(rules, ground, after, reasoned) : undefined)
  )
}

/**
 * Judges a change of one item: every value, the move, the families, the parent and what the status asks that it enters.
 *
 * @returns the item as it will be, with the handles that differ; or the first thing that keeps it from being made
 */
export function judgeEdit(
  rules: WorkRules,
  ground: Ground,
  ref: string,
  { comment, place, moving, ...given }: ItemChange,
): Judged {
  const before = ground.item(ref)
  const unmoved = moving && judgeMoving(rules, moving)
  if (unmoved) return refuse(unmoved)
  const taken = moving ? takenOver(rules, before, moving) : before
  const said = comment === undefined ? undefined : readComment(comment)
  if (said && !said.ok) return refuse(said.refusal)
  const { values, wrong } = readGiven(rules, ground, given, String(taken['project']), taken)
  if (wrong.length > 0) return refuse(invalid(wrong))
  const placed: Facts = place === undefined ? values : { ...values, position: place }
  const after = changed(rules, placed, taken)
  const refusal = judgeWhole(rules, ground, {
    values: placed,
    before,
    after,
    reasoned: said !== undefined,
  })
  if (refusal) return refuse(refusal)
  const handles = Object.keys(after).filter(
    (handle) => !sameValue(before[handle] ?? null, after[handle] ?? null),
  )
  return { ok: true, before, after, changed: handles, comment: said?.text }
}

/** Judges the families where labels are given or the type changes; what was there before them may stay as it is. */
function judgeLabels(
  rules: WorkRules,
  values: Facts,
  after: Facts,
  before: Facts,
): Refusal | undefined {
  const isAsBefore = after['type'] === before['type'] && !movesOver(after, before)
  if (values['labels'] === undefined && isAsBefore) return undefined
  const rulebook = rulebookOf(rules, String(after['project']))
  return judgeFamilies(rules, rulebook, String(after['type']), membersOf(after['labels']))
}

/** A change of one item among many. */
export interface ChangeOf {
  readonly ref: string
  readonly change: ItemChange
}

/**
 * Judges many changes in their order, each on the ground that those before it leave behind, so that together is the same as one by
 * one. A change that is refused leaves nothing behind.
 *
 * @param ground is kept up to date; begin with a copy where it is still needed as it was
 */
export function judgeEdits(
  rules: WorkRules,
  ground: Ground,
  changes: readonly ChangeOf[],
): Judged[] {
  return changes.map(({ ref, change }) => {
    const judged = judgeEdit(rules, ground, ref, change)
    if (judged.ok) ground.accept(judged.after, judged.comment !== undefined)
    return judged
  })
}
