import { lastIn } from '../../known/index.ts'
import { type Change, fold, same, valueAt } from './change.ts'
import { diff } from './diff.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { type Clash, merge } from './merge.ts'

/** For each clash, by its path as JSON text, whose change is taken. */
export type ClashChoices = Readonly<Record<string, 'mine' | 'theirs'>>

export type Rebased =
  | { readonly ok: true; readonly changes: readonly Change[] }
  | { readonly ok: false; readonly clashes: readonly Clash[] }

/**
 * A draft's changes put on a newer edition than the one it was begun on. Changes keep who made them and when; what was decided
 * for the other side goes, and what the newer edition says already is no change any more.
 */
export function rebase(
  base: DefinitionsDocument,
  changes: readonly Change[],
  current: DefinitionsDocument,
  choices: ClashChoices = {},
): Rebased {
  const merged = merge(base, fold(base, changes), current)
  const open = merged.ok
    ? []
    : merged.clashes.filter((clash) => !choices[JSON.stringify(clash.path)])
  if (open.length > 0) return { ok: false, clashes: open }
  const theirs = merged.ok
    ? []
    : merged.clashes
        .filter((clash) => choices[JSON.stringify(clash.path)] === 'theirs')
        .flatMap((clash) => clash.mine.map((difference) => JSON.stringify(difference.path)))
  let document = current
  const kept: Change[] = []
  for (const { path, after } of diff(base, fold(base, changes))) {
    if (theirs.includes(JSON.stringify(path))) continue
    const before = valueAt(document, path)
    if (same(before, after)) continue
    const made = changes.findLast((change) => touches(change.path, path)) ?? lastIn(changes)
    const change = {
      id: `${made.id}${kept.some((change) => change.id === made.id) ? `_${kept.length}` : ''}`,
      by: made.by,
      at: made.at,
      path,
      ...(before === undefined ? {} : { before }),
      ...(after === undefined ? {} : { after }),
    }
    kept.push(change)
    document = fold(document, [change])
  }
  return { ok: true, changes: kept }
}

const touches = (a: readonly string[], b: readonly string[]): boolean =>
  a.slice(0, b.length).every((key, index) => key === b[index])
