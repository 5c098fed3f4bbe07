import type { VersionAnswer } from '@bluestem/core/work'
import type { ApiProblem } from '../api/http.ts'

type Changed = Pick<VersionAnswer, 'by' | 'words'>

/** What somebody else changed, as a lost race tells it: “Ilse Varga moved it from Open to In hand”. */
export function changedMeanwhile({ more }: ApiProblem): string {
  // A lost race tells the changes as the history does.
  const changed = Array.isArray(more['changed']) ? (more['changed'] as readonly Changed[]) : []
  const last = changed.at(-1)
  if (!last) return 'somebody changed it meanwhile'
  const sentences = last.words.map((sentence) => sentence.map(({ text }) => text).join(''))
  return `${last.by.title} ${sentences.join(', ')}`
}
