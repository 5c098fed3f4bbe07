import { invalid, type Refusal } from './refusal.ts'
import { cleanText } from './value.ts'

/** What is said about an item as it is kept, or why it cannot be. */
export function readComment(
  body: string,
):
  { readonly ok: true; readonly text: string } | { readonly ok: false; readonly refusal: Refusal } {
  const clean = cleanText(body)
  if (clean.ok && clean.text.trim() !== '') return { ok: true, text: clean.text.trim() }
  const message = clean.ok ? 'There is nothing said.' : clean.message
  return {
    ok: false,
    refusal: invalid([{ pointer: '/comment', message, expected: 'something said' }]),
  }
}
