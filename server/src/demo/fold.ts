import { asNumber, asTextOrNull, certain, firstIn, lastIn, valueFor } from '@bluestem/core/known'
import { orderBetween } from '@bluestem/core/definitions'
import type { Facts } from '@bluestem/core/queries'
import {
  Ground,
  judgeEdits,
  judgeNew,
  type Refusal,
  type Relative,
  type WorkRules,
} from '@bluestem/core/work'
import type { LoadedItem, LoadedState } from '../items/massLoad.ts'
import { columnValues } from '../work/columns.ts'
import { rulesFor } from '../work/rules.ts'
import type { World } from '../workspace/world.ts'
import type { Project } from '../workspace/living.ts'
import type { Act, Life } from './life.ts'

/** Where the fold of one life stands: the item, what it is judged on, and its columns. */
interface Standing {
  readonly ref: string
  readonly ground: Ground
  readonly state: LoadedState
}

/** Makes states of lives by the rules that judge every change: one state a change, nothing where nothing changed. */
export class Folder {
  readonly #world: World
  readonly #projects: ReadonlyMap<string, Project>
  readonly #parents = new Map<string, { readonly id: number; readonly relative: Relative }>()
  readonly #positions = new Map<string, string>()
  #last = 0

  constructor(world: World) {
    this.#world = world
    this.#projects = new Map(world.projects.map((project) => [project.code, project]))
  }

  /** @throws Error for an act that the definitions of the demo refuse, which is a defect of the demo */
  fold(life: Life): LoadedItem {
    const id = (this.#last += 1)
    const begun = this.#begin(life, id)
    const states = [begun.state]
    const comments: { at: number; by: number; body: string }[] = []
    for (const act of life.acts) {
      const standing = { ...begun, state: lastIn(states) }
      const state = this.#next(standing, act)
      if (!state) continue
      if (act.comment !== undefined)
        comments.push({ at: state.from, by: act.by, body: act.comment })
      states.push(state)
    }
    const { title, description } = begun.ground.item(begun.ref)
    return {
      id,
      states,
      comments,
      texts: [
        {
          from: life.made.at,
          title: String(title),
          description: asTextOrNull(description),
        },
      ],
    }
  }

  #rules({ by, at }: Act): WorkRules {
    const person = certain(
      this.#world.people.find((person) => person.number === by),
      `person ${by}`,
    )
    return rulesFor({ world: this.#world, person, now: new Date(at) })
  }

  /** The item as it is made, and its first state. */
  #begin({ project: code, number, type, parent, made }: Life, id: number): Standing {
    const project = valueFor(this.#projects, code)
    const ref = `${code}/${number}`
    const above = parent === null ? [] : this.#above(parent)
    const relatives = new Map(above.map((relative) => [relative.ref, relative]))
    const nothing = { items: new Map(), below: new Map(), past: new Map() }
    const judged = judgeNew(
      this.#rules(made),
      new Ground({ ...nothing, relatives }),
      project.id,
      made.edit,
    )
    if (!judged.ok) throw refusedAct(ref, judged.refusal)
    const position = orderBetween(this.#positions.get(code) ?? null, null)
    this.#positions.set(code, position)
    const item: Facts = { ...judged.item, ref, position }
    // Nothing stands below a check, and there are more of them than of anything else.
    if (type !== 'check')
      this.#parents.set(ref, {
        id,
        relative: { ref, type: String(item['type']), parent, visible: true },
      })
    const ground = new Ground({
      items: new Map([[ref, item]]),
      relatives,
      below: new Map(),
      past: new Map([[ref, { commented: false, been: new Set([String(item['status'])]) }]]),
    })
    return { ref, ground, state: this.#firstState(item, project, number, made) }
  }

  #above(ref: string): Relative[] {
    const known = this.#parents.get(ref)
    if (!known) return []
    const { relative } = known
    return [relative, ...(relative.parent === null ? [] : this.#above(relative.parent))]
  }

  #firstState(item: Facts, project: Project, number: number, { at, by }: Act): LoadedState {
    const held = Object.keys(item).filter((handle) => item[handle] !== null)
    return {
      ...this.#columns(item, held),
      from: at,
      project_id: project.number,
      number,
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
    }
  }

  /** The state after an act; undefined where it changes nothing. */
  #next({ ref, ground, state }: Standing, act: Act): LoadedState | undefined {
    const from = Math.max(act.at, state.from + 1)
    if (act.deleted) return following(state, { deleted: true }, act, from)
    const change = { ...act.edit, ...(act.comment === undefined ? {} : { comment: act.comment }) }
    const judged = firstIn(judgeEdits(this.#rules(act), ground, [{ ref, change: change }]))
    if (!judged.ok) throw refusedAct(ref, judged.refusal)
    const { after, changed, comment } = judged
    if (changed.length === 0 && comment === undefined) return undefined
    const said = comment === undefined ? 0 : 1
    const values = {
      ...this.#columns(after, changed),
      comment_count: asNumber(state['comment_count']) + said,
    }
    return following(state, values, act, from)
  }

  #columns(item: Facts, handles: readonly string[]): Record<string, unknown> {
    return columnValues(this.#world, item, handles, (ref) => this.#parents.get(ref)?.id)
  }
}

const refusedAct = (ref: string, refusal: Refusal): Error =>
  new Error(`the demo's ${ref} is refused: ${JSON.stringify(refusal)}`)

/** The state after a change: the columns that follow from a phase, and who and when. */
function following(
  before: LoadedState,
  values: Record<string, unknown>,
  act: Act,
  from: number,
): LoadedState {
  const state: LoadedState = { ...before, ...values, from, changed_at: from, by_id: act.by }
  const phase = asNumber(state['phase'])
  if ('phase' in values) {
    if (phase === 1) state['first_active_at'] = before['first_active_at'] ?? from
    if (phase === 2) state['first_done_at'] = before['first_done_at'] ?? from
    state['done_at'] = phase !== 2 ? null : before['phase'] === 2 ? before['done_at'] : from
  }
  if ('on_hold' in values)
    state['held_since'] = values['on_hold'] === true ? (before['held_since'] ?? from) : null
  return state
}
