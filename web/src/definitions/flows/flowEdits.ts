import { type Flow, lastPlace, placeAmong, resolve } from '@bluestem/core/definitions'
import { useDefinitions } from '../store/definitions.store.ts'

/** What changes the flow of a type, in the draft. */
export function useFlowEdits(shown: () => { readonly type: string; readonly flow: Flow }) {
  const definitions = useDefinitions()
  const statusKey = (id: string): string => `status:${shown().type}:${id}`

  /** Allows a move, or forbids it. */
  async function toggle(from: string, to: string): Promise<void> {
    const { type, flow } = shown()
    const after = flow.moves.has(`${from}:${to}`) ? null : {}
    await definitions.edit([definitions.sayEntry(`move:${type}:${from}:${to}`, after)])
  }

  /** Takes a status into the flow, at its end. */
  async function use(id: string): Promise<void> {
    const { document, rulebook } = definitions
    const order = lastPlace(document, rulebook, `status:${shown().type}`)
    if (id) await definitions.edit([definitions.sayEntry(statusKey(id), { order })])
  }

  /** Puts a status at another place of the flow: menus and boards list statuses in this order. */
  async function place(id: string, at: number): Promise<void> {
    const { document, rulebook } = definitions
    const order = placeAmong(document, rulebook, `status:${shown().type}`, id, at)
    await definitions.edit([definitions.sayEntry(statusKey(id), { order })])
  }

  /** Lets items of the type start in a status. */
  async function start(id: string): Promise<void> {
    await definitions.edit([definitions.sayEntry(`type:${shown().type}`, { start: id })])
  }

  /** Leaves a status out, with the moves of this rulebook from it and to it. */
  async function leaveOut(id: string): Promise<void> {
    const own = [...resolve(definitions.document, definitions.rulebook).values()].filter(
      (resolved) =>
        resolved.from === definitions.rulebook &&
        resolved.origin === 'added' &&
        resolved.key.startsWith(`move:${shown().type}:`) &&
        resolved.key.split(':').includes(id),
    )
    await definitions.edit([
      ...own.map((resolved) => definitions.sayEntry(resolved.key, null)),
      definitions.sayEntry(statusKey(id), null),
    ])
  }

  return { toggle, use, place, start, leaveOut }
}
