import { flowOf, orderBetween } from '@bluestem/core/definitions'
import { phases, type Property } from '@bluestem/core/queries'
import type { World } from '../workspace/world.ts'
import { columnOf } from '../sql/property.ts'
import type { QueryContext } from '../sql/statement.ts'
import type { LoadedItem, LoadedState } from '../items/massLoad.ts'
import type { Act, Life } from './events.ts'

/** Makes states of lives by the same rules as the service: one state a change, nothing where nothing changed. */
export class Folder {
  readonly #world: World
  readonly #columns = new Map<string, { column: string; property: Property } | undefined>()
  readonly #ids = new Map<string, number>()
  readonly #positions = new Map<string, string>()
  #last = 0

  constructor(world: World) {
    this.#world = world
  }

  fold(life: Life): LoadedItem {
    const id = (this.#last += 1)
    if (life.type !== 'check') this.#ids.set(`${life.project}/${life.number}`, id)
    const states = [this.#first(life)]
    const comments: { at: number; by: number; body: string }[] = []
    for (const act of life.acts) {
      const before = states.at(-1)!
      const from = Math.max(act.at, before.from + 1)
      const values =
        act.comment === undefined
          ? this.#values(act.edit!)
          : { comment_count: (before['comment_count'] as number) + 1 }
      if (
        !Object.entries(values).some(
          ([column, value]) => JSON.stringify(before[column] ?? null) !== JSON.stringify(value),
        )
      )
        continue
      if (act.comment !== undefined) comments.push({ at: from, by: act.by, body: act.comment })
      states.push(after(before, values, act, from))
    }
    const description = (life.made.edit['description'] as string | undefined) ?? null
    return {
      id,
      states,
      comments,
      texts: [{ from: life.made.at, title: String(life.made.edit['title']), description }],
    }
  }

  #first({ project, number, made }: Life): LoadedState {
    const { at, by, edit } = made
    const type = String(edit['type'])
    const { document, projects } = this.#world
    const start = flowOf(
      document,
      document.projects[projects.find((one) => one.code === project)!.id]!,
      type,
    ).start!
    const position = orderBetween(this.#positions.get(project) ?? null, null)
    this.#positions.set(project, position)
    return {
      from: at,
      project_id: this.#world.projects.find((one) => one.code === project)!.number,
      number,
      status_id: this.#world.numbers.of('status', start)!,
      phase: 0,
      created_at: at,
      changed_at: at,
      by_kind: 0,
      by_id: by,
      raised_by: by,
      first_active_at: null,
      first_done_at: null,
      done_at: null,
      held_since: null,
      comment_count: 0,
      code_change_count: 0,
      deleted: false,
      on_hold: false,
      hold_reason: null,
      position,
      labels: [],
      components: [],
      link_kinds: [],
      ...this.#values(edit),
    }
  }

  #values(edit: Readonly<Record<string, unknown>>): Record<string, unknown> {
    const values: Record<string, unknown> = {}
    for (const [handle, raw] of [
      ...Object.entries(edit).filter(([handle]) => handle !== 'fields' && handle !== 'description'),
      ...Object.entries((edit['fields'] as object | undefined) ?? {}),
    ]) {
      const known = this.#column(handle)
      if (!known) throw new Error(`the demo names no property: ${handle}`)
      values[known.column] = this.#stored(known.property, raw)
      if (handle === 'status')
        values['phase'] = phases.indexOf(this.#world.document.statuses[String(raw)]!.phase)
      if (handle === 'on_hold' && raw === false) values['hold_reason'] = null
    }
    return values
  }

  #column(handle: string): { column: string; property: Property } | undefined {
    if (!this.#columns.has(handle)) {
      const property = this.#world.vocabulary.properties.get(handle)
      const column = property && columnOf({ world: this.#world } as QueryContext, property)
      this.#columns.set(handle, property && column ? { column, property } : undefined)
    }
    return this.#columns.get(handle)
  }

  #stored({ type, handle }: Property, raw: unknown): unknown {
    if (raw === null || raw === undefined) return null
    const id = raw as string
    if (handle === 'parent') return this.#ids.get(id) ?? null
    if (type.kind === 'choice') return this.#world.numbers.of(type.domain, id)!
    if (type.kind === 'array')
      return (raw as string[])
        .map((one) => this.#world.numbers.of((type as { domain: 'label' }).domain, one)!)
        .sort((a, b) => a - b)
    return raw
  }
}

/** The state after a change: the columns that follow from a phase, and who and when. */
function after(
  before: LoadedState,
  values: Record<string, unknown>,
  act: Act,
  from: number,
): LoadedState {
  const state: LoadedState = { ...before, ...values, from, changed_at: from, by_id: act.by }
  const phase = state['phase'] as number
  if ('phase' in values) {
    if (phase === 1) state['first_active_at'] = before['first_active_at'] ?? from
    if (phase === 2) state['first_done_at'] = before['first_done_at'] ?? from
    state['done_at'] = phase !== 2 ? null : before['phase'] === 2 ? before['done_at'] : from
  }
  if ('on_hold' in values)
    state['held_since'] = values['on_hold'] === true ? (before['held_since'] ?? from) : null
  return state
}
