import { entryOf, valueFor } from '../known/index.ts'
import { changingWith } from '../queries/check.ts'
import {
  type Condition,
  type Domain,
  type Property,
  type Type,
  changesWith,
} from '../queries/tree/checked.ts'
import type { Cql2Json } from '../queries/toJson.ts'
import { readCondition } from '../queries/read.ts'
import { readScore } from '../queries/score.ts'
import {
  builtIns,
  type Choice,
  type TeamRemit,
  type Vocabulary,
} from '../queries/tree/vocabulary.ts'
import { phases } from '../definitions/document/phases.ts'
import type { DefinitionsDocument } from '../definitions/document/document.ts'
import type { Field } from '../definitions/document/entries.ts'
import { inOrder } from '../definitions/document/ordered.ts'
import { fieldKind, isComputed } from '../definitions/document/fieldKinds.ts'
import { columnsOfLimits, limitsOf, workingTimes } from './limits.ts'
import type { Living } from './living.ts'
import { formOf, rungsOf } from '../definitions/rulebook/rulebook.ts'

/** The kind of value a field holds, as queries see it. */
export function typeOfField(id: string, field: Pick<Field, 'kind'>): Type {
  const { values, several } = fieldKind(field.kind)
  if (values !== 'option' && values !== 'person') return { kind: values }
  return {
    kind: several ? 'array' : 'choice',
    domain: values === 'person' ? values : `option:${id}`,
  }
}

function propertyOf(id: string, field: Field): Property {
  const type = typeOfField(id, field)
  return {
    handle: field.handle,
    title: field.title,
    type,
    changesWith: ['own'],
    nullable: type.kind !== 'array',
    builtIn: false,
    ...(fieldKind(field.kind).long ? { long: true as const } : {}),
  }
}

/** Roll-ups and scores are read after what items hold, scores last: a score may name a roll-up. One that cannot be read is left out. */
function withComputed(
  vocabulary: Vocabulary,
  fields: readonly (Field & { readonly id: string })[],
): Vocabulary {
  const properties = new Map(vocabulary.properties)
  const all = { ...vocabulary, properties }
  const add = (field: Field, property: Partial<Property>): void =>
    void properties.set(field.handle, {
      handle: field.handle,
      title: field.title,
      type: { kind: 'number' },
      changesWith: ['own'],
      nullable: true,
      builtIn: false,
      ...property,
    })
  for (const field of fields) {
    if (field.kind !== 'roll-up' || !field.rollUp) continue
    const of = field.rollUp.of === undefined ? null : properties.get(field.rollUp.of)
    if (of !== undefined && of?.computed === undefined)
      add(field, {
        computed: { kind: 'roll-up', how: field.rollUp.how, of },
        changesWith: ['below', ...(of?.changesWith ?? []).filter((kind) => kind !== 'own')],
      })
  }
  for (const field of fields) {
    if (field.kind !== 'score' || !field.formula) continue
    const read = readScore(field.formula, all)
    if (read.ok)
      add(field, {
        computed: { kind: 'score', value: read.value, empty: field.empty ?? null },
        changesWith: [
          ...changesWith({ kind: 'isNull', value: read.value, at: read.value.at }, () => []),
        ],
      })
  }
  return all
}

const plain = (id: string, title: string, retired?: boolean): Choice => ({
  id,
  name: title,
  qualified: title,
  title,
  ...(retired ? { retired } : {}),
})
const byTitle = (a: Choice, b: Choice): number =>
  a.title.localeCompare(b.title, 'en') || (a.id < b.id ? -1 : 1)

/** Entries of the document in their defined order. */
const ordered = <T extends { order: string; title: string; retired?: boolean }>(
  entries: Record<string, T>,
): Choice[] => inOrder(entries).map((entry) => plain(entry.id, entry.title, entry.retired))

const projectChoice = ({ id, code, title }: Living['projects'][number]): Choice => ({
  id,
  name: code,
  qualified: code,
  title,
})

const personChoice = ({ id, name, email }: Living['people'][number]): Choice => ({
  id,
  name,
  qualified: `${name} <${email}>`,
  title: name,
})

/** Statuses by phase, then in their defined order. */
const statusesByPhase = (document: DefinitionsDocument): Choice[] =>
  inOrder(document.statuses)
    .sort((a, b) => phases.indexOf(a.phase) - phases.indexOf(b.phase))
    .map((status) => plain(status.id, status.title, status.retired))

/** The choices of every domain, before names that several share are told apart. */
function choicesByDomain(
  document: DefinitionsDocument,
  living: Living,
): Iterable<readonly [Domain, readonly Choice[]]> {
  const codes = new Map(living.projects.map((project) => [project.id, project.code]))
  const componentChoice = (component: Living['components'][number]): Choice => ({
    ...plain(component.id, component.title, component.retired),
    qualified: `${codes.get(component.project) ?? '?'}: ${component.title}`,
  })
  const options = inOrder(document.fields).flatMap((field): [Domain, readonly Choice[]][] =>
    field.options ? [[`option:${field.id}`, ordered(field.options)]] : [],
  )
  return [
    ['project', living.projects.map(projectChoice).sort(byTitle)],
    ['type', ordered(document.types)],
    ['status', statusesByPhase(document)],
    ['phase', phases.map((phase) => plain(phase, phase))],
    ['priority', prioritiesByRung(document)],
    ['person', living.people.map(personChoice).sort(byTitle)],
    ['family', ordered(document.families)],
    ['label', living.labels.map((label) => labelChoice(document, codes, label)).sort(byTitle)],
    ['component', living.components.map(componentChoice).sort(byTitle)],
    ['linkKind', inOrder(document.linkKinds).map((kind) => plain(kind.id, kind.title))],
    ['iteration', living.iterations.map((iteration) => plain(iteration.id, iteration.title))],
    ['release', living.releases.map((release) => plain(release.id, release.title))],
    ['team', living.teams.map((team) => plain(team.id, team.title))],
    ['limit', ordered(document.limits)],
    ...options,
  ]
}

/** The place of each priority on the ladder that a project follows. */
function rungsByProject(
  document: DefinitionsDocument,
): ReadonlyMap<string, ReadonlyMap<string, number>> {
  const places = Object.entries(document.projects).map(([project, rulebook]) => {
    const rungs = rungsOf(document, rulebook)
    return [project, new Map(rungs.map((priority, at) => [priority, at + 1]))] as const
  })
  return new Map(places)
}

/**
 * Everything a query can name, from the current edition and the living data. Choices stand in their defined order.
 *
 * @param teams with their remits, where those were read already
 */
export function vocabularyOf(
  document: DefinitionsDocument,
  living: Living,
  teams?: readonly TeamRemit[],
): Vocabulary {
  const domains = new Map<Domain, readonly Choice[]>()
  const byIdentity = new Map<Domain, ReadonlyMap<string, Choice>>()
  for (const [domain, choices] of choicesByDomain(document, living)) {
    const named = unmistakable(choices)
    domains.set(domain, named)
    byIdentity.set(domain, new Map(named.map((choice) => [choice.id, choice])))
  }
  const rungs = rungsByProject(document)
  const fields = inOrder(document.fields)
  const stored = fields.filter((field) => !isComputed(field.kind))
  const properties = [
    ...builtIns,
    ...columnsOfLimits(document),
    ...stored.map((field) => propertyOf(field.id, field)),
  ]
  const vocabulary: Vocabulary = {
    properties: new Map(properties.map((property) => [property.handle, property])),
    choices: (domain) => domains.get(domain) ?? [],
    choice: (domain, id) => byIdentity.get(domain)?.get(id),
    tierOf: (type) => document.types[type]?.tier ?? null,
    urgencyOf: (priority) => document.priorities[priority]?.urgency ?? null,
    rungOf: (project, priority) => rungs.get(project)?.get(priority) ?? null,
    isOnForm: formsOf(document),
    iterations: living.iterations,
    releases: living.releases,
    teams: teams ?? [],
    limits: limitsOf(document),
    workingOf: workingTimes(living),
  }
  const computed = withComputed(vocabulary, fields)
  return teams ? computed : { ...computed, teams: remitsOf(computed, living) }
}

/** Teams with their remits read. A remit that cannot be read, or that looks at remits itself, is none. */
function remitsOf(vocabulary: Vocabulary, living: Living): readonly TeamRemit[] {
  const remitOf = (remit: Cql2Json | null): Condition | null => {
    if (remit === null) return null
    const read = readCondition(
      { lang: 'cql2-json', filter: remit, spelling: 'identity' },
      vocabulary,
    )
    return read.ok && !changingWith(read.value).has('definition') ? read.value : null
  }
  return living.teams.map(({ id, people, remit, calendar }) => ({
    id,
    people: new Set(people),
    remit: remitOf(remit),
    working: living.calendars.find((entry) => entry.id === calendar) ?? null,
  }))
}

/** Whether the form of a type in a project has a field, by its handle; worked out once for each rulebook and type. */
function formsOf(document: DefinitionsDocument): Vocabulary['isOnForm'] {
  const forms = new Map<string, ReadonlySet<string>>()
  return (project, type, handle) => {
    const rulebook = document.projects[project]
    if (!rulebook) return false
    const key = `${rulebook} ${type}`
    const known =
      forms.get(key) ??
      new Set(
        formOf(document, rulebook, type, 'item').map(
          ({ field }) => document.fields[field]?.handle ?? field,
        ),
      )
    forms.set(key, known)
    return known.has(handle)
  }
}

/** Priorities of one ladder stand as its rungs do; across ladders the ladder comes first, then those on none. */
function prioritiesByRung(document: DefinitionsDocument): Choice[] {
  const onLadders = inOrder(document.ladders).flatMap((ladder) =>
    inOrder(ladder.rungs).map((rung) => rung.id),
  )
  const ids = [
    ...new Set([...onLadders, ...inOrder(document.priorities).map((priority) => priority.id)]),
  ]
  return ids
    .filter((id) => document.priorities[id])
    .map((id) =>
      plain(id, entryOf(document.priorities, id).title, entryOf(document.priorities, id).retired),
    )
}

function labelChoice(
  document: DefinitionsDocument,
  codes: ReadonlyMap<string, string>,
  { id, title, family, project, retired }: Living['labels'][number],
): Choice {
  const familyTitle = family === null ? undefined : document.families[family]?.title
  const name = familyTitle === undefined ? title : `${familyTitle}: ${title}`
  return {
    ...plain(id, title, retired),
    name,
    qualified: project ? `${codes.get(project) ?? '?'}: ${name}` : name,
    ...(family === null || familyTitle === undefined ? {} : { family, own: title }),
  }
}

/** Choices of which no two have the same unmistakable name: one that is retired says so, and what is still the same says its identity. */
function unmistakable(choices: readonly Choice[]): readonly Choice[] {
  const count = (all: readonly Choice[]): Map<string, number> => {
    const counts = new Map<string, number>()
    for (const { qualified } of all) counts.set(qualified, (counts.get(qualified) ?? 0) + 1)
    return counts
  }
  const first = count(choices)
  if ([...first.values()].every((number) => number === 1)) return choices
  const told = choices.map((choice) =>
    valueFor(first, choice.qualified) > 1 && choice.retired
      ? { ...choice, qualified: `${choice.qualified} (retired)` }
      : choice,
  )
  const second = count(told)
  return told.map((choice) =>
    valueFor(second, choice.qualified) > 1
      ? { ...choice, qualified: `${choice.qualified} (${choice.id})` }
      : choice,
  )
}
