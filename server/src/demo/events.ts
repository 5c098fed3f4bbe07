import { addDays, dayOf, daysBetween, startOfDay, weekday } from '@bluestem/core/calendar'
import { type Flow, flowOf, movesFrom } from '@bluestem/core/definitions'
import { Chance } from './chance.ts'
import { components, definitions, projects } from './definitions.ts'
import { people } from './people.ts'
import { describe, holdReason, remark, titleFor } from './titles.ts'

export const zone = 'Europe/Zurich'
/** How many days of history the demo has. */
export const span = 548

/** One act on an item, in the words of the API; `comment` instead of an edit says something. */
export interface Act {
  readonly at: number
  readonly by: number
  readonly edit?: Readonly<Record<string, unknown>>
  readonly comment?: string
}

/** Everything that happened to one item: how it was made, and what was done to it later, in order of time. */
export interface Life {
  readonly project: string
  readonly number: number
  readonly type: string
  readonly parent: string | null
  readonly made: Act & { readonly edit: Readonly<Record<string, unknown>> }
  readonly acts: readonly Act[]
}

const shares: readonly (readonly [string, number])[] = [
  ['YARD', 40],
  ['PIER', 20],
  ['CREW', 10],
  ['FARE', 18],
  ['SAFE', 12],
]
const typeShares: Record<string, readonly (readonly [string, number])[]> = {
  YARD: [
    ['defect', 50],
    ['job', 26],
    ['check', 21],
    ['package', 2.4],
    ['programme', 0.3],
  ],
  PIER: [
    ['defect', 46],
    ['job', 34],
    ['check', 17],
    ['package', 2.6],
  ],
  CREW: [
    ['job', 70],
    ['check', 26],
    ['package', 4],
  ],
  FARE: [
    ['change', 56],
    ['defect', 34],
    ['check', 7],
    ['package', 3],
  ],
  SAFE: [
    ['finding', 58],
    ['inspection', 20],
    ['check', 20],
    ['package', 2],
  ],
}
/** Work comes in before the summer season, and hardly between the years. */
const season = [0.8, 0.9, 1.2, 1.6, 1.9, 1.5, 1.0, 0.9, 1.0, 0.9, 1.0, 0.6]
const day = 86_400_000

/** How many items each day brings, so that they add up to the number asked for. */
function arrivals(today: string, items: number): { day: string; count: number }[] {
  const days = Array.from({ length: span }, (_, index) => addDays(today, index - span + 1))
  const weights = days.map(
    (one) => season[Number(one.slice(5, 7)) - 1]! * (weekday(one) > 5 ? 0.25 : 1),
  )
  const all = weights.reduce((sum, weight) => sum + weight, 0)
  let [given, due] = [0, 0]
  return days.map((one, index) => {
    due += (items * weights[index]!) / all
    const count = index === days.length - 1 ? items - given : Math.floor(due) - given
    given += count
    return { day: one, count }
  })
}

/**
 * The lives of so many items, oldest first. The same for the same number and day: chance is seeded.
 *
 * @param now the moment the demo ends at
 */
export function* lives(now: Date, items: number): Generator<Life> {
  const chance = new Chance(20_261)
  const today = dayOf(now.getTime(), zone)
  const numbers = new Map<string, number>()
  const parents = new Map<string, string[]>()
  for (const { day: made, count } of arrivals(today, items)) {
    const start = startOfDay(made, zone)
    const instants = Array.from(
      { length: count },
      () => start + Math.floor((6.5 + chance.next() * 11) * 3_600_000),
    )
      .map((at) => Math.min(at, now.getTime() - 60_000 * (1 + Math.floor(chance.next() * 300))))
      .sort((a, b) => a - b)
    for (const at of instants) {
      const project = chance.weighted(shares)
      const type = chance.weighted(typeShares[project]!)
      const number = (numbers.get(project) ?? 0) + 1
      numbers.set(project, number)
      yield lifeOf(chance, {
        project,
        type,
        number,
        at,
        now: now.getTime(),
        parent: parentFor(chance, parents, project, type, number),
        flow: flowOf(definitions, definitions.projects[projectId(project)]!, `ty_${type}`),
        today,
      })
    }
  }
}

const projectId = (code: string): string => projects.find((project) => project.code === code)!.id
const tier = (type: string): number => definitions.types[`ty_${type}`]!.tier

/** A recent item of a higher tier of the same project, for most of the small ones. */
function parentFor(
  chance: Chance,
  parents: Map<string, string[]>,
  project: string,
  type: string,
  number: number,
): string | null {
  const own = tier(type)
  if (own >= 1) {
    const list = parents.get(`${project} ${own}`) ?? []
    parents.set(`${project} ${own}`, [...list.slice(-39), `${project}/${number}`])
  }
  const above = Array.from({ length: 4 - own }, (_, index) => own + 1 + index).flatMap((one) =>
    (parents.get(`${project} ${one}`) ?? []).slice(-(own === 0 ? 12 : 4)),
  )
  return above.length > 0 && chance.happens(own === 0 ? 0.92 : own === 1 ? 0.3 : 0.6)
    ? chance.pick(above)
    : null
}

interface Making {
  readonly project: string
  readonly type: string
  readonly number: number
  readonly at: number
  readonly now: number
  readonly parent: string | null
  readonly flow: Flow
  readonly today: string
}

/** How long work of each type usually stays in a status of each phase, in days. */
const stays: Record<string, { readonly idle: number; readonly active: number }> = {
  defect: { idle: 5, active: 5 },
  job: { idle: 9, active: 7 },
  package: { idle: 12, active: 70 },
  programme: { idle: 10, active: 200 },
  inspection: { idle: 8, active: 3 },
  finding: { idle: 6, active: 12 },
  change: { idle: 11, active: 6 },
  check: { idle: 6, active: 2 },
}

function lifeOf(chance: Chance, making: Making): Life {
  const { project, type, number, at, parent } = making
  const team = people.flatMap((person, index) =>
    person.projects.includes(project) ? [index + 1] : [],
  )
  const raisedBy = chance.happens(0.85) ? chance.pick(team) : chance.whole(4, people.length)
  const edit = {
    type: `ty_${type}`,
    title: titleFor(chance, project, type),
    ...(parent ? { parent } : {}),
    ...given(chance, making, team),
  }
  return {
    project,
    number,
    type,
    parent,
    made: { at, by: raisedBy, edit },
    acts: [...walk(chance, making, team)].sort((a, b) => a.at - b.at),
  }
}

/** What is filled when an item is made. */
function given(
  chance: Chance,
  { project, type, at, today }: Making,
  team: readonly number[],
): Record<string, unknown> {
  const made = dayOf(at, zone)
  const small = tier(type) <= 2
  const urgent = type === 'defect' || type === 'finding'
  const own = components
    .filter((component) => component.project === project)
    .map((component) => component.id)
  const fields: Record<string, unknown> = {}
  const fill = (handle: string, probability: number, value: () => unknown): void =>
    void (chance.happens(probability) && (fields[handle] = value()))
  const atYard = project === 'YARD' || project === 'PIER'
  if (atYard && (type === 'defect' || type === 'job')) {
    fill('cost_of_parts', 0.45, () => chance.lasting(180, 1.1).toFixed(2))
    fill('berth', 0.6, () => `op_berth0${chance.pick([1, 2, 3, 4, 5, 6, 7, 9])}`)
  }
  if (type === 'defect') {
    fill(
      'found_by',
      0.88,
      () =>
        `op_found0${chance.weighted([
          [1, 40],
          [2, 20],
          [3, 18],
          [4, 6],
          [5, 16],
        ])}`,
    )
  }
  if (type === 'defect' && atYard) {
    fill('hours_lost', 0.3, () => chance.lasting(2, 1).toFixed(1))
    fill('warranty_until', 0.3, () => addDays(made, chance.whole(-200, 700)))
    fill(
      'old_yard_number',
      daysBetween(made, today) > 400 ? 0.3 : 0,
      () => `Y-${chance.whole(1000, 9999)}`,
    )
    fill(
      'class_certificate',
      0.12,
      () => `https://certificates.marrowmere.example/${chance.whole(10_000, 99_999)}`,
    )
    fill('surveyor', 0.2, () => personId(chance.pick(team)))
  }
  if (type === 'finding' || type === 'inspection')
    fields['next_check'] = chance.happens(0.7) ? addDays(made, chance.whole(20, 200)) : null
  if (type === 'finding') fill('inspector_note', 0.64, () => describe(chance))
  if (type === 'job' && atYard) {
    fill('crew_needed', 0.35, () => [
      ...new Set([personId(chance.pick(team)), personId(chance.pick(team))]),
    ])
    fill(
      'wind_window',
      daysBetween(made, today) < 146 ? 0.5 : 0,
      () => `op_wind0${chance.whole(1, 4)}`,
    )
  }
  if (tier(type) >= 1) fill('safety_relevant', 0.9, () => chance.happens(urgent ? 0.3 : 0.1))
  return {
    ...(chance.happens(0.55) ? { description: describe(chance) } : {}),
    ...(chance.happens(0.94)
      ? {
          priority:
            project === 'FARE'
              ? chance.weighted<string>([
                  ['pi_now', urgent ? 22 : 8],
                  ['pi_next', 40],
                  ['pi_later', 44],
                ])
              : chance.weighted<string>([
                  ['pi_stopped', urgent ? 6 : 1],
                  ['pi_risk', urgent ? 20 : 8],
                  ['pi_nuisance', 38],
                  ['pi_convenient', 36],
                ]),
        }
      : { priority: null }),
    assignee: small && chance.happens(0.45) ? personId(chance.pick(team)) : null,
    ...(small && chance.happens(0.72)
      ? { estimate: String(chance.pick([1, 2, 2, 3, 4, 6, 8, 12, 16, 21])) }
      : {}),
    ...(chance.happens(urgent ? 0.6 : 0.5)
      ? { due: addDays(made, Math.ceil(chance.lasting(type === 'finding' ? 30 : 20, 0.7))) }
      : {}),
    ...(own.length > 0 && chance.happens(0.85) ? { components: [chance.pick(own)] } : {}),
    labels: labelsFor(chance, project, type),
    fields,
  }
}

export const personId = (number: number): string => `pe_${String(number).padStart(2, '0')}`

function labelsFor(chance: Chance, project: string, type: string): string[] {
  const labels: string[] = []
  if (project === 'YARD' && chance.happens(0.6)) labels.push(`la_deck${chance.whole(1, 5)}`)
  if (project !== 'CREW' && chance.happens(0.35)) labels.push(`la_gear${chance.whole(1, 6)}`)
  if (type === 'finding') labels.push(`la_proof${chance.whole(1, 2)}`)
  if (chance.happens(0.12))
    labels.push(
      `la_free${chance.weighted([
        [1, 5],
        [2, 4],
        [3, 3],
        [4, 4],
        [5, 3],
        [6, 2],
        [7, 2],
        [8, 3],
      ])}`,
    )
  return labels
}

/** Statuses in which work lies, against the usual stay of its type. */
const lingering: Record<string, number> = {
  st_hand: 0.8,
  st_parts: 2.5,
  st_surveyor: 3.5,
  st_proof: 1.6,
}

/** The moves of an item through its flow, and what is done on the way, until it rests or the demo ends. */
function* walk(chance: Chance, making: Making, team: readonly number[]): Generator<Act> {
  const { type, flow, now } = making
  const stay = stays[type]!
  let status = flow.start!
  let at = making.at
  let held = false
  for (let moves = 0; moves < 14; moves += 1) {
    const phase = definitions.statuses[status]!.phase
    const forgotten = phase === 'idle' && chance.happens(0.06) ? 14 : 1
    // Moved into working hours, a move may not come before the one it follows.
    const until = Math.max(
      at + 240_000,
      working(
        at +
          chance.lasting(phase === 'idle' ? stay.idle : stay.active * (lingering[status] ?? 1)) *
            forgotten *
            day,
      ),
    )
    if (phase === 'done' && !chance.happens(0.06)) return
    if (phase === 'dropped' && !chance.happens(0.04)) return
    yield* between(chance, making, team, at, Math.min(until, now), phase)
    if (phase === 'active' && until - at > 6 * day && chance.happens(0.3)) {
      const hold = working(at + (until - at) * 0.3)
      if (hold < now && hold < until - 120_000 && hold > at) {
        yield {
          at: hold,
          by: chance.pick(team),
          edit: { on_hold: true, hold_reason: holdReason(chance) },
        }
        held = true
      }
    }
    if (until >= now) return
    if (held) yield { at: until - 61_000, by: chance.pick(team), edit: { on_hold: false } }
    held = false
    const to = next(chance, flow, status)
    if (!to) return
    const by = chance.pick(team)
    at = until
    const beginning = definitions.statuses[to]!.phase === 'active' && phase === 'idle'
    yield {
      at,
      by,
      edit: {
        status: to,
        ...(beginning && chance.happens(0.7) ? { assignee: personId(by) } : {}),
        ...(beginning && chance.happens(0.4) ? { start: dayOf(at, zone) } : {}),
        ...(to === 'st_surveyor' ? { fields: { surveyor: personId(chance.pick(team)) } } : {}),
      },
    }
    status = to
  }
}

/** Where an item goes next: mostly on, sometimes back, now and then away. */
function next(chance: Chance, flow: Flow, from: string): string | undefined {
  const weights: Record<string, number> = {
    st_open: 1,
    st_ready: 7,
    st_hand: 9,
    st_parts: 2.2,
    st_surveyor: 3,
    st_review: 9,
    st_proof: 8,
    st_signed: 8,
    st_withdrawn: 0.8,
  }
  const to = movesFrom(flow, from)
  return to.length === 0
    ? undefined
    : chance.weighted(
        to.map(
          (status) =>
            [
              status,
              weights[status]! * (from === 'st_open' && status === 'st_withdrawn' ? 0.9 : 1),
            ] as const,
        ),
      )
}

/** An instant moved into the working hours of its day, so that nobody works at three in the night. */
function working(at: number): number {
  const start = startOfDay(dayOf(at, zone), zone)
  const hours = (at - start) / 3_600_000
  return Math.floor(hours < 6 || hours > 19 ? start + (7 + (hours % 10)) * 3_600_000 : at)
}

/** What happens while an item stays where it is: things said, a priority raised, a date moved, a label given. */
function* between(
  chance: Chance,
  { type, project }: Making,
  team: readonly number[],
  from: number,
  to: number,
  phase: string,
): Generator<Act> {
  const moment = (): number =>
    working(from + 120_000 + chance.next() * Math.max(0, to - from - 240_000))
  const inside = (at: number): boolean => at > from + 60_000 && at < to - 60_000
  const acts: Act[] = []
  if (chance.happens(0.28))
    acts.push({ at: moment(), by: chance.pick(team), comment: remark(chance) })
  if (phase === 'active' && chance.happens(0.3))
    acts.push({ at: moment(), by: chance.pick(team), comment: remark(chance) })
  if (chance.happens(0.08))
    acts.push({
      at: moment(),
      by: chance.pick(team),
      edit: {
        priority:
          project === 'FARE'
            ? chance.pick(['pi_now', 'pi_next'])
            : chance.pick(['pi_risk', 'pi_stopped', 'pi_nuisance']),
      },
    })
  if (chance.happens(0.1))
    acts.push({
      at: moment(),
      by: chance.pick(team),
      edit: { due: addDays(dayOf(to, zone), chance.whole(2, 25)) },
    })
  if (phase === 'active' && tier(type) <= 2 && chance.happens(0.35))
    acts.push({
      at: moment(),
      by: chance.pick(team),
      edit: { remaining: String(chance.whole(0, 12)) },
    })
  if (phase === 'active' && type === 'defect' && chance.happens(0.25))
    acts.push({
      at: moment(),
      by: chance.pick(team),
      edit: {
        fields: { spare_parts: [`op_spare${String(chance.whole(1, 12)).padStart(2, '0')}`] },
      },
    })
  yield* acts.filter((act) => inside(act.at))
}
