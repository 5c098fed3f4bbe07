import type { Chance } from './chance.ts'
import { type Making, personId, tier, zone } from './life.ts'
import { addDays, dayOf, daysBetween } from '@bluestem/core/calendar'
import { describe } from './titles.ts'
import { components } from './labels.ts'

type Fields = Record<string, unknown>

/** Fills fields one after the other, each with its own chance; the order is part of the demo's seed. */
class Filling {
  readonly fields: Fields = {}
  readonly #chance: Chance

  constructor(chance: Chance) {
    this.#chance = chance
  }

  fill(handle: string, probability: number, value: () => unknown): void {
    if (this.#chance.happens(probability)) this.fields[handle] = value()
  }
}

const isYard = (project: string): boolean => project === 'YARD' || project === 'PIER'

/** What a defect says beside what all yard work says. */
function fillDefect(
  chance: Chance,
  filling: Filling,
  { project, at, today }: Making,
  team: readonly number[],
): void {
  const made = dayOf(at, zone)
  const foundBy = (): number =>
    chance.weighted([
      [1, 40],
      [2, 20],
      [3, 18],
      [4, 6],
      [5, 16],
    ])
  filling.fill('found_by', 0.88, () => `op_found0${foundBy()}`)
  if (!isYard(project)) return
  const isOld = daysBetween(made, today) > 400
  filling.fill('hours_lost', 0.3, () => chance.lasting(2, 1).toFixed(1))
  filling.fill('warranty_until', 0.3, () => addDays(made, chance.whole(-200, 700)))
  filling.fill('old_yard_number', isOld ? 0.3 : 0, () => `Y-${chance.whole(1000, 9999)}`)
  filling.fill(
    'class_certificate',
    0.12,
    () => `https://certificates.marrowmere.example/${chance.whole(10_000, 99_999)}`,
  )
  filling.fill('surveyor', 0.2, () => personId(chance.pick(team)))
}

function fillJob(
  chance: Chance,
  filling: Filling,
  { at, today }: Making,
  team: readonly number[],
): void {
  const isRecent = daysBetween(dayOf(at, zone), today) < 146
  filling.fill('crew_needed', 0.35, () => [
    ...new Set([personId(chance.pick(team)), personId(chance.pick(team))]),
  ])
  filling.fill('wind_window', isRecent ? 0.5 : 0, () => `op_wind0${chance.whole(1, 4)}`)
}

/** The custom fields that are filled when an item is made. */
function fieldsGiven(chance: Chance, making: Making, team: readonly number[]): Fields {
  const { project, type, at } = making
  const filling = new Filling(chance)
  if (isYard(project) && (type === 'defect' || type === 'job')) {
    filling.fill('cost_of_parts', 0.45, () => chance.lasting(180, 1.1).toFixed(2))
    filling.fill('berth', 0.6, () => `op_berth0${chance.pick([1, 2, 3, 4, 5, 6, 7, 9])}`)
  }
  if (type === 'defect') fillDefect(chance, filling, making, team)
  if (type === 'finding' || type === 'inspection')
    filling.fields['next_check'] = chance.happens(0.7)
      ? addDays(dayOf(at, zone), chance.whole(20, 200))
      : null
  if (type === 'finding') filling.fill('inspector_note', 0.64, () => describe(chance))
  if (type === 'job' && isYard(project)) fillJob(chance, filling, making, team)
  const likely = isUrgent(type) ? 0.3 : 0.1
  if (tier(type) >= 1) filling.fill('safety_relevant', 0.9, () => chance.happens(likely))
  return filling.fields
}

const isUrgent = (type: string): boolean => type === 'defect' || type === 'finding'

function priorityGiven(chance: Chance, project: string, urgent: boolean): string | null {
  if (!chance.happens(0.94)) return null
  if (project === 'FARE')
    return chance.weighted<string>([
      ['pi_now', urgent ? 22 : 8],
      ['pi_next', 40],
      ['pi_later', 44],
    ])
  return chance.weighted<string>([
    ['pi_stopped', urgent ? 6 : 1],
    ['pi_risk', urgent ? 20 : 8],
    ['pi_nuisance', 38],
    ['pi_convenient', 36],
  ])
}

/** What is filled when an item is made. */
export function given(
  chance: Chance,
  making: Making,
  team: readonly number[],
): Record<string, unknown> {
  const { project, type, at } = making
  const made = dayOf(at, zone)
  const small = tier(type) <= 2
  const urgent = isUrgent(type)
  const own = components
    .filter((component) => component.project === project)
    .map((component) => component.id)
  const fields = fieldsGiven(chance, making, team)
  return {
    ...(chance.happens(0.55) ? { description: describe(chance) } : {}),
    priority: priorityGiven(chance, project, urgent),
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
