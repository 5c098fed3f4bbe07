import { elementAt, lastIn } from '../known/index.ts'
import { addWorkingMinutes, workingMinutes, type WorkingTime } from '../calendar/working.ts'
import type { Instant } from '../calendar/day.ts'
import type { TimeLimit } from '../definitions/document/rules.ts'

/** What an item was from one instant on, as a time limit sees it. */
export interface ClockState {
  readonly from: Instant
  readonly status: string
  readonly onHold: boolean
}

/** A time limit, and the projects whose rulebooks offer it, by identity. */
export interface LimitedProjects extends Pick<
  TimeLimit,
  'allowances' | 'starts' | 'stops' | 'ends' | 'warnAt'
> {
  readonly projects: ReadonlySet<string>
}

/** What decides how long a time limit allows. */
export interface Allowed {
  readonly urgency: number | null
  readonly priority: string | null
  readonly labels: readonly string[]
}

export interface Clock {
  /** minutes of working time allowed and used */
  readonly allowed: number
  readonly used: number
  readonly state: 'not begun' | 'running' | 'standing still' | 'met' | 'missed' | 'passed'
  /** whether the warning share is reached and the clock has not ended */
  readonly warning: boolean
  /** when it will run out if it runs on, or ran out; null where it stands still or has ended in time */
  readonly runsOut: Instant | null
}

/** The working minutes a limit allows an item: the first allowance that fits; null where none does. */
export function allowanceOf(
  limit: Pick<TimeLimit, 'allowances'>,
  { urgency, priority, labels }: Allowed,
): number | null {
  const fits = (entry: TimeLimit['allowances'][number]): boolean =>
    (entry.urgency === undefined || entry.urgency === urgency) &&
    (entry.priority === undefined || entry.priority === priority) &&
    (entry.label === undefined || labels.includes(entry.label))
  return limit.allowances.find(fits)?.minutes ?? null
}

/**
 * Where the clock of a time limit stands: it starts when the item first enters one of the starting statuses (at once where none are
 * named), stands still on hold and in the stopping ones, and ends when it first enters an ending one after it began.
 *
 * @param states the item's states, ascending; they hold until the next begins
 * @returns null where no allowance fits
 */
export function clockOf(
  limit: Omit<LimitedProjects, 'projects'>,
  states: readonly ClockState[],
  allowed: Allowed,
  now: Instant,
  working: WorkingTime,
  zone: string,
): Clock | null {
  const minutes = allowanceOf(limit, allowed)
  if (minutes === null) return null
  const begin = states.findIndex(
    (state) => !limit.starts || limit.starts.length === 0 || limit.starts.includes(state.status),
  )
  if (begin < 0)
    return { allowed: minutes, used: 0, state: 'not begun', warning: false, runsOut: null }
  const after = states.slice(begin)
  const end = after.findIndex((state) => limit.ends.includes(state.status))
  const running = end < 0 ? after : after.slice(0, end)
  const until = end < 0 ? now : elementAt(after, end).from
  const still = (state: ClockState): boolean =>
    state.onHold || (limit.stops ?? []).includes(state.status)
  const used = running.reduce(
    (sum, state, index) =>
      still(state)
        ? sum
        : sum + workingMinutes(state.from, running[index + 1]?.from ?? until, working, zone),
    0,
  )
  if (end >= 0)
    return {
      allowed: minutes,
      used,
      state: used <= minutes ? 'met' : 'missed',
      warning: false,
      runsOut: null,
    }
  const stands = still(lastIn(running))
  const state = used > minutes ? 'passed' : stands ? 'standing still' : 'running'
  return {
    allowed: minutes,
    used,
    state,
    warning: used * 100 >= minutes * limit.warnAt,
    runsOut:
      stands || state === 'passed' ? null : addWorkingMinutes(now, minutes - used, working, zone),
  }
}

/**
 * Working hours that are left of a limit, below 0 once it is passed, also while its clock stands still.
 *
 * @returns null where no clock runs: none has begun, it has ended, or nothing is allowed
 */
export function hoursLeft(clock: Clock | null): number | null {
  const runs =
    clock && clock.state !== 'not begun' && clock.state !== 'met' && clock.state !== 'missed'
  // What was used is a sum of milliseconds, told in minutes.
  return runs ? (clock.allowed * 60_000 - Math.round(clock.used * 60_000)) / 3_600_000 : null
}
