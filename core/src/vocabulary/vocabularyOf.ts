import { readScore } from '../queries/score.ts'
import {
  builtIns,
  type Choice,
  type Domain,
  phases,
  type Property,
  type Span,
  type Type,
  type Vocabulary,
} from './vocabulary.ts'
import { changesWith } from '../queries/checked.ts'
import type { DefinitionsDocument } from '../definitions/document/document.ts'
import type { Field } from '../definitions/document/entries.ts'
import { inOrder } from '../definitions/document/ordered.ts'
import { isComputed } from '../definitions/document/fieldKinds.ts'
import { formOf, rungsOf } from '../definitions/rulebook/rulebook.ts'

/** What is defined outside the document and changes at once: projects, people, labels, components, iterations, releases. */
export interface Living {
  readonly projects: readonly {
    readonly id: string
    readonly code: string
    readonly title: string
  }[]
  readonly people: readonly { readonly id: string; readonly name: string; readonly email: string }[]
  readonly labels: readonly {
    readonly id: string
    readonly title: string
    readonly family: string | null
    readonly project?: string | null
    readonly retired?: boolean
  }[]
  readonly components: readonly {
    readonly id: string
    readonly title: string
    readonly project: string
    readonly retired?: boolean
  }[]
  readonly iterations: readonly (Span & { readonly title: string })[]
  readonly releases: readonly (Span & { readonly title: string })[]
}

/** The kind of value a field holds, as queries see it. */
export function typeOfField(id: string, field: Pick<Field, 'kind'>): Type {
  switch (field.kind) {
    case 'text':
    case 'long text':
    case 'web address':
      return { kind: 'text' }
    case 'number':
    case 'score':
    case 'roll-up':
      return { kind: 'number' }
    case 'date':
      return { kind: 'date' }
    case 'moment':
      return { kind: 'timestamp' }
    case 'yes/no':
      return { kind: 'boolean' }
    case 'choice':
      return { kind: 'choice', domain: `option:${id}` }
    case 'several choices':
      return { kind: 'array', domain: `option:${id}` }
    case 'person':
      return { kind: 'choice', domain: 'person' }
    case 'people':
      return { kind: 'array', domain: 'person' }
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
    ...(field.kind === 'long text' ? { long: true as const } : {}),
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
  for (const field of fields.filter((one) => one.kind === 'roll-up' && one.rollUp)) {
    const of = field.rollUp!.of === undefined ? null : properties.get(field.rollUp!.of)
    if (of !== undefined && of?.computed === undefined)
      add(field, {
        computed: { kind: 'roll-up', how: field.rollUp!.how, of },
        changesWith: ['kin'],
      })
  }
  for (const field of fields.filter((one) => one.kind === 'score' && one.formula)) {
    const read = readScore(field.formula!, all)
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

/** Everything a query can name, from the current edition and the living data. Choices stand in their defined order. */
export function vocabularyOf(document: DefinitionsDocument, living: Living): Vocabulary {
  const fields = inOrder(document.fields)
  const codes = new Map(living.projects.map((project) => [project.id, project.code]))
  const ordered = <T extends { order: string; title: string; retired?: boolean }>(
    map: Record<string, T>,
  ): Choice[] => inOrder(map).map((entry) => plain(entry.id, entry.title, entry.retired))
  const statuses = inOrder(document.statuses).sort(
    (a, b) => phases.indexOf(a.phase) - phases.indexOf(b.phase),
  )
  const domains = new Map<Domain, readonly Choice[]>(
    (
      [
        [
          'project',
          living.projects
            .map((project) => ({
              id: project.id,
              name: project.code,
              qualified: project.code,
              title: project.title,
            }))
            .sort(byTitle),
        ],
        ['type', ordered(document.types)],
        ['status', statuses.map((status) => plain(status.id, status.title, status.retired))],
        ['phase', phases.map((phase) => plain(phase, phase))],
        ['priority', prioritiesByRung(document)],
        [
          'person',
          living.people
            .map((person) => ({
              id: person.id,
              name: person.name,
              qualified: `${person.name} <${person.email}>`,
              title: person.name,
            }))
            .sort(byTitle),
        ],
        ['family', ordered(document.families)],
        ['label', living.labels.map((label) => labelChoice(document, codes, label)).sort(byTitle)],
        [
          'component',
          living.components
            .map((component) => ({
              ...plain(component.id, component.title, component.retired),
              qualified: `${codes.get(component.project) ?? '?'}: ${component.title}`,
            }))
            .sort(byTitle),
        ],
        ['linkKind', inOrder(document.linkKinds).flatMap((kind) => [plain(kind.id, kind.title)])],
        ['iteration', living.iterations.map((iteration) => plain(iteration.id, iteration.title))],
        ['release', living.releases.map((release) => plain(release.id, release.title))],
        ...fields
          .filter((field) => field.options)
          .map((field): [Domain, readonly Choice[]] => [
            `option:${field.id}`,
            ordered(field.options!),
          ]),
      ] as [Domain, readonly Choice[]][]
    ).map(([domain, choices]) => [domain, unmistakable(choices)]),
  )
  const index = new Map(
    [...domains].map(([domain, choices]) => [
      domain,
      new Map(choices.map((choice) => [choice.id, choice])),
    ]),
  )
  const rungs = new Map(
    Object.entries(document.projects).map(([project, rulebook]) => [
      project,
      new Map(rungsOf(document, rulebook).map((priority, at) => [priority, at + 1])),
    ]),
  )
  return withComputed(
    {
      properties: new Map(
        [
          ...builtIns,
          ...fields
            .filter((field) => !isComputed(field.kind))
            .map((field) => propertyOf(field.id, field)),
        ].map((property) => [property.handle, property]),
      ),
      choices: (domain) => domains.get(domain) ?? [],
      choice: (domain, id) => index.get(domain)?.get(id),
      tierOf: (type) => document.types[type]?.tier ?? null,
      urgencyOf: (priority) => document.priorities[priority]?.urgency ?? null,
      rungOf: (project, priority) => rungs.get(project)?.get(priority) ?? null,
      isOnForm: formsOf(document),
      iterations: living.iterations,
      releases: living.releases,
    },
    fields,
  )
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
    .map((id) => plain(id, document.priorities[id]!.title, document.priorities[id]!.retired))
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
    ...(familyTitle === undefined ? {} : { family: family!, own: title }),
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
  if ([...first.values()].every((one) => one === 1)) return choices
  const told = choices.map((choice) =>
    first.get(choice.qualified)! > 1 && choice.retired
      ? { ...choice, qualified: `${choice.qualified} (retired)` }
      : choice,
  )
  const second = count(told)
  return told.map((choice) =>
    second.get(choice.qualified)! > 1
      ? { ...choice, qualified: `${choice.qualified} (${choice.id})` }
      : choice,
  )
}
