import { article } from '../language/listed.ts'
import type { DefinitionsDocument } from '../definitions/document/document.ts'
import type { Requirement } from '../definitions/document/rules.ts'
import { type Entering, unmet, unmetInWords } from '../definitions/rulebook/requirement.ts'
import { type Flow, flowOf } from '../definitions/rulebook/rulebook.ts'
import type { Facts, FactValue } from '../queries/tree/facts.ts'
import type { Ground } from './ground.ts'
import { refused, type Refusal } from './refusal.ts'
import { rulebookOf, type WorkRules } from './rules.ts'

/** What an item holds in a field, named by identity or, for a built-in one, by handle. */
export const heldIn = ({ document }: WorkRules, item: Facts, field: string): FactValue =>
  item[document.fields[field]?.handle ?? field] ?? null

/** Whether an item holds something in a field. */
export function holdsSomething(rules: WorkRules, item: Facts, field: string): boolean {
  const held = heldIn(rules, item, field)
  return held !== null && held !== '' && !(Array.isArray(held) && held.length === 0)
}

/** What is known of an item that is about to enter a status; `item` as it will be, `reasoned` when something is said with the move. */
export function enteringOf(
  rules: WorkRules,
  ground: Ground,
  item: Facts,
  reasoned: boolean,
): Entering {
  const ref = String(item['ref'])
  const { person } = rules
  const { commented, been } = ground.past(ref)
  const keeps = person.isAdministrator || person.keeps.has(String(item['project']))
  return {
    roles: [
      ...(person.isAdministrator ? (['administrator'] as const) : []),
      ...(keeps ? (['keeper of the project'] as const) : []),
      ...(item['assignee'] === person.id ? (['assignee'] as const) : []),
    ],
    filled: (field) => holdsSomething(rules, item, field),
    openBelow: ground.below(ref).open,
    commented,
    reasoned,
    been: (status) => been.has(status),
  }
}

/** What an item still lacks for entering a status, as people read it. */
export const missingFor = (
  document: DefinitionsDocument,
  requirement: Requirement | undefined,
  entering: Entering,
): string[] =>
  requirement ? unmet(requirement, entering).map((part) => unmetInWords(document, part)) : []

/** Refuses a move whose requirements are not met, with what is missing and what the rulebook says to whoever is refused. */
export function judgeEntering(
  rules: WorkRules,
  ground: Ground,
  item: Facts,
  reasoned: boolean,
): Refusal | undefined {
  const { document } = rules
  const flow = flowFor(rules, item)
  const status = String(item['status'])
  const requirement = flow.requirements.get(status)
  const entering = enteringOf(rules, ground, item, reasoned)
  const missing = missingFor(document, requirement, entering)
  if (missing.length === 0) return undefined
  const type = document.types[flow.type]?.title ?? flow.type
  const says = requirement?.says ?? null
  const sentence = `${article(type)} ${type} does not enter ${document.statuses[status]?.title ?? status} yet: ${missing.join(' ')}`
  return refused(
    says ? `${says} ${sentence}` : sentence,
    missing.map((message) => ({ pointer: '/status', message })),
    { missing, says },
  )
}

/** The flow an item is in: its project's, for its type. */
export const flowFor = (rules: WorkRules, item: Facts): Flow =>
  flowOf(rules.document, rulebookOf(rules, String(item['project'])), String(item['type']))
