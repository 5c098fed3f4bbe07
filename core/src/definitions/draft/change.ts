import { asRecord, elementAt, isRecord } from '../../known/index.ts'
import type { DefinitionsDocument } from '../document/document.ts'

/** One change of a draft: at a path of the document, from one value to another; an absent value is left out. */
export interface Change {
  readonly id: string
  /** the identity of the person who made it */
  readonly by: string
  /** when, as RFC 3339 text */
  readonly at: string
  readonly path: readonly string[]
  readonly before?: unknown
  readonly after?: unknown
}

/**
 * What a person asks to change: the rest of a `Change` is filled in by who keeps the draft. `before` is what stood there when the
 * person looked, null for nothing; where it is given, the edit is meant for that alone.
 */
export type Edit = Pick<Change, 'path' | 'after' | 'before'>

/** The edits that would overwrite what somebody else changed since the person looked, each with what is there now. */
export const overtaken = (
  document: DefinitionsDocument,
  edits: readonly Edit[],
): { readonly path: readonly string[]; readonly there: unknown }[] =>
  edits.flatMap((edit) => {
    const there = valueAt(document, edit.path) ?? null
    return edit.before === undefined || same(there, edit.before) || same(there, edit.after ?? null)
      ? []
      : [{ path: edit.path, there }]
  })

/** The edits that change something of what a form was opened with, each meant for what stood there then. */
export const changedSince = (opened: DefinitionsDocument, edits: readonly Edit[]): Edit[] =>
  edits.flatMap(({ path, after }) => {
    const before = valueAt(opened, path)
    return same(before, after) ? [] : [{ path, after, before: before ?? null }]
  })

/** The value at a path, undefined where there is none. */
export function valueAt(document: unknown, path: readonly string[]): unknown {
  let value = document
  for (const key of path) {
    if (!isRecord(value) || !Object.hasOwn(value, key)) return undefined
    value = value[key]
  }
  return value
}

/** The document with the value at a path replaced, or taken away when `after` is undefined. Shares all that did not change. */
export const replaceAt = <T>(document: T, path: readonly string[], after: unknown): T =>
  // A change is judged against the document's schema wherever it comes in.
  placedAt(document, path, after, new WeakSet()) as T

/** A map that may be changed: the given one where it is `own`, made by an earlier step that nobody has seen, else a copy, which is own from now on. */
function ownMap(map: unknown, own: WeakSet<object>): Record<string, unknown> {
  if (isRecord(map) && own.has(map)) return map
  const copy = { ...asRecord(map) }
  own.add(copy)
  return copy
}

/** As `replaceAt`; maps that are `own` are changed in place: a thousand changes of one large map copy it once. */
function placedAt(
  document: unknown,
  path: readonly string[],
  after: unknown,
  own: WeakSet<object>,
): unknown {
  const [key, ...rest] = path
  if (key === undefined) return after
  const map = ownMap(document, own)
  const value = rest.length === 0 ? after : placedAt(map[key] ?? {}, rest, after, own)
  if (value === undefined) delete map[key]
  else map[key] = value
  return map
}

/** The document of a draft: its base with all changes made, in order. */
export function fold(
  base: DefinitionsDocument,
  changes: readonly Pick<Change, 'path' | 'after'>[],
): DefinitionsDocument {
  const own = new WeakSet<object>()
  // Each change was judged against the document's schema when it came in.
  return changes.reduce<unknown>(
    (document, { path, after }) => placedAt(document, path, after, own),
    base,
  ) as DefinitionsDocument
}

const begins = (path: readonly string[], start: readonly string[]): boolean =>
  start.every((key, index) => path[index] === key)

/** The later changes that rest on a change: those at, above or below its path. While there are any it cannot be undone. */
export function restingOn(changes: readonly Change[], id: string): readonly Change[] {
  const index = changes.findIndex((change) => change.id === id)
  const change = changes[index]
  return change
    ? changes
        .slice(index + 1)
        .filter((later) => begins(later.path, change.path) || begins(change.path, later.path))
    : []
}

/**
 * Adds an edit to a draft's changes. An edit of what the draft itself changed last is joined to that change,
 * and one that puts the value back takes the change away, so that a draft lists what it does, not how it was typed.
 */
export const addEdit = (
  base: DefinitionsDocument,
  changes: readonly Change[],
  edit: Edit,
  made: Pick<Change, 'id' | 'by' | 'at'>,
): readonly Change[] => joined(changes, valueAt(fold(base, changes), edit.path), edit, made)

/** Adds edits one after another, as `addEdit` would; the document is folded once, so that a file with thousands is quick. */
export function addEdits(
  base: DefinitionsDocument,
  changes: readonly Change[],
  edits: readonly Edit[],
  made: () => Pick<Change, 'id' | 'by' | 'at'>,
): readonly Change[] {
  let [all, own] = [changes, new WeakSet<object>()]
  let document: unknown = fold(base, changes)
  for (const edit of edits) {
    const before = valueAt(document, edit.path)
    all = joined(all, before, edit, made())
    // What a change keeps as its “before” must never change again.
    if (typeof before === 'object') own = new WeakSet()
    document = placedAt(document, edit.path, edit.after, own)
  }
  return all
}

function joined(
  changes: readonly Change[],
  before: unknown,
  edit: Edit,
  made: Pick<Change, 'id' | 'by' | 'at'>,
): readonly Change[] {
  if (same(before, edit.after)) return changes
  const last = changes.findLastIndex(
    (change) => begins(change.path, edit.path) || begins(edit.path, change.path),
  )
  const rests = last >= 0 ? elementAt(changes, last) : undefined
  if (rests && rests.path.length === edit.path.length) {
    const entry = { ...rests, ...made, id: rests.id, after: edit.after }
    const others = changes.filter((_, index) => index !== last)
    return same(rests.before, edit.after) ? others : [...others, withoutUndefined(entry)]
  }
  if (rests && begins(edit.path, rests.path) && rests.before === undefined) {
    const after = replaceAt(rests.after, edit.path.slice(rests.path.length), edit.after)
    return changes.map((change) => (change === rests ? { ...rests, after } : change))
  }
  return [...changes, withoutUndefined({ ...made, path: edit.path, before, after: edit.after })]
}

/** A change of which what is undefined is left out, as JSON leaves it out. */
const withoutUndefined = ({ before, after, ...rest }: Change): Change => ({
  ...rest,
  ...(before === undefined ? {} : { before }),
  ...(after === undefined ? {} : { after }),
})

/** Whether two JSON values are the same, whatever the order of their keys. Keys may be `valueOf` or `constructor`, on which libraries stumble. */
export function same(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((entry, index) => same(entry, b[index]))
  if (!isRecord(a) || !isRecord(b)) return false
  const keys = Object.keys(a)
  return (
    keys.length === Object.keys(b).length &&
    keys.every((key) => Object.hasOwn(b, key) && same(a[key], b[key]))
  )
}
