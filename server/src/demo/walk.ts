import { certain, entryOf } from '@bluestem/core/known'
import type { Chance } from './chance.ts'
import { type Act, day, type Making, personId, stays, tier, zone } from './life.ts'
import { definitions } from './definitions.ts'
import { holdReason, remark } from './titles.ts'
import { addDays, dayOf, startOfDay } from '@bluestem/core/calendar'
import { type Flow, movesFrom } from '@bluestem/core/definitions'

/** Statuses in which work lies, against the usual stay of its type. */
const lingering: Record<string, number> = {
  st_hand: 0.8,
  st_parts: 2.5,
  st_surveyor: 3.5,
  st_proof: 1.6,
}

/** When an item leaves the status it is in. Moved into working hours, a move may not come before the one it follows. */
function leaving(chance: Chance, { type }: Making, status: string, at: number): number {
  const { phase } = entryOf(definitions.statuses, status)
  const stay = entryOf(stays, type)
  const forgotten = phase === 'idle' && chance.happens(0.06) ? 14 : 1
  const usual = phase === 'idle' ? stay.idle : stay.active * (lingering[status] ?? 1)
  const until = at + chance.lasting(usual) * forgotten * day
  return Math.max(at + 240_000, working(until))
}

/** Whether an item rests where it is for good. */
function rests(chance: Chance, phase: string): boolean {
  if (phase === 'done') return !chance.happens(0.06)
  if (phase === 'dropped') return !chance.happens(0.04)
  return false
}

/** Work that lies long is put on hold now and then. */
function holdWhile(
  chance: Chance,
  team: readonly number[],
  span: { readonly at: number; readonly until: number; readonly now: number },
  phase: string,
): Act | undefined {
  const { at, until, now } = span
  if (phase !== 'active' || until - at <= 6 * day || !chance.happens(0.3)) return undefined
  const hold = working(at + (until - at) * 0.3)
  if (hold >= now || hold >= until - 120_000 || hold <= at) return undefined
  return {
    at: hold,
    by: chance.pick(team),
    edit: { on_hold: true, hold_reason: holdReason(chance) },
  }
}

/** A move into a status, with what people set as they make it. */
function moveTo(
  chance: Chance,
  team: readonly number[],
  to: string,
  from: string,
  at: number,
): Act {
  const by = chance.pick(team)
  const phaseOf = (status: string): string => entryOf(definitions.statuses, status).phase
  const beginning = phaseOf(to) === 'active' && phaseOf(from) === 'idle'
  return {
    at,
    by,
    edit: {
      status: to,
      ...(beginning && chance.happens(0.7) ? { assignee: personId(by) } : {}),
      ...(beginning && chance.happens(0.4) ? { start: dayOf(at, zone) } : {}),
      ...(to === 'st_surveyor' ? { fields: { surveyor: personId(chance.pick(team)) } } : {}),
    },
  }
}

const mostMoves = 14

/** The moves of an item through its flow, and what is done on the way, until it rests or the demo ends. */
export function* walk(chance: Chance, making: Making, team: readonly number[]): Generator<Act> {
  const { flow, now } = making
  let status = certain(flow.start, 'status at which a flow starts')
  let at = making.at
  for (let moves = 0; moves < mostMoves; moves += 1) {
    const { phase } = entryOf(definitions.statuses, status)
    const until = leaving(chance, making, status, at)
    if (rests(chance, phase)) return
    yield* between(chance, making, team, at, Math.min(until, now), phase)
    const hold = holdWhile(chance, team, { at, until, now }, phase)
    if (hold) yield hold
    if (until >= now) return
    if (hold) yield { at: until - 61_000, by: chance.pick(team), edit: { on_hold: false } }
    const to = next(chance, flow, status)
    if (!to) return
    yield moveTo(chance, team, to, status, until)
    at = until
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
              entryOf(weights, status) *
                (from === 'st_open' && status === 'st_withdrawn' ? 0.9 : 1),
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
