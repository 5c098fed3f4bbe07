import { asTexts } from '../../known/index.ts'
import type { CheckedCall } from '../tree/checked.ts'
import { wordsOf } from '../values/words.ts'
import { type Caller, literalIn } from './entry.ts'

/** Whether an item carries a label. */
export const hasLabel = ({ facts }: Caller, call: CheckedCall): boolean =>
  asTexts(facts['labels']).includes(literalIn(call, call.args.length - 1))

/** Whether an item carries a label of a family. */
export const inFamily = ({ facts, moment }: Caller, call: CheckedCall): boolean =>
  asTexts(facts['labels']).some(
    (id) => moment.vocabulary.choice('label', id)?.family === literalIn(call, 0),
  )

/** Whether all of some words stand in what is written on an item: its title, description, comments and labels. */
export function hasWords({ facts, moment }: Caller, call: CheckedCall): boolean {
  const labels = asTexts(facts['labels']).map((id) => {
    const label = moment.vocabulary.choice('label', id)
    return label?.own ?? label?.title
  })
  const texts = [
    facts['title'],
    facts['description'],
    ...labels,
    ...asTexts(facts['comment_texts']),
  ]
  const held = new Set(texts.flatMap((text) => wordsOf(String(text ?? ''))))
  return wordsOf(literalIn(call, 0)).every((word) => held.has(word))
}
